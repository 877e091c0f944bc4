namespace Sexton.Core.Register;

/// <summary>Define: fields, sections, steps and destinations as plain data, and how two registers differ in words.</summary>
internal static class NamespaceDoc;
