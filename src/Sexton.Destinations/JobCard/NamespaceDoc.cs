namespace Sexton.Destinations.JobCard;

/// <summary>Deliver: the job card of a line: what is to be made of it.</summary>
internal static class NamespaceDoc;
