using System.Reflection;
using System.Xml.Linq;
using NetArchTest.Rules;

namespace Sexton.Tests;

/// <summary>What the tests of an assembly ask of its folders.</summary>
internal static class Folders
{
    /// <summary>The stages through which an order goes, as the README has them; "Every stage" for what serves them all.</summary>
    private static readonly string[] Stages =
    [
        "Every stage",
        "Define",
        "Compile",
        "Ask",
        "Check",
        "Price",
        "Attempt",
        "Place",
        "Project",
        "Deliver",
        "Confirm",
    ];

    /// <summary>The types of a folder that use one of a later folder.</summary>
    /// <param name="assembly">The assembly, whose namespaces begin with its name.</param>
    /// <param name="inOrder">Its folders, each of which may use only those before it.</param>
    /// <param name="folder">The folder.</param>
    public static IEnumerable<string> UsingLater(Assembly assembly, IEnumerable<string> inOrder, string folder)
    {
        var root = assembly.GetName().Name!;
        var later = inOrder.SkipWhile(f => f != folder).Skip(1).Select(f => $"{root}.{f}").ToArray();
        return Types
                .InAssembly(assembly)
                .That()
                .ResideInNamespaceMatching($@"^{root.Replace(".", @"\.", StringComparison.Ordinal)}\.{folder}(\.|$)")
                .ShouldNot()
                .HaveDependencyOnAny(later)
                .GetResult()
                .FailingTypeNames
            ?? [];
    }

    /// <summary>The folders in which the types of an assembly stand; "none" for types that stand in none.</summary>
    public static IEnumerable<string> Of(Assembly assembly) =>
        Namespaces(assembly).Select(static n => n.Split('.').ElementAtOrDefault(2) ?? "none").Distinct();

    /// <summary>The folders that do not say which stage they are.</summary>
    public static IEnumerable<string> WithoutStage(Assembly assembly)
    {
        var said = XDocument
            .Load(Path.ChangeExtension(assembly.Location, ".xml"))
            .Descendants("member")
            .Where(static m => m.Attribute("name")!.Value.EndsWith(".NamespaceDoc", StringComparison.Ordinal))
            .ToDictionary(
                static m => m.Attribute("name")!.Value[2..^".NamespaceDoc".Length],
                static m => m.Element("summary")!.Value.Trim()
            );
        return Namespaces(assembly)
            .Where(n => n != assembly.GetName().Name && !n.EndsWith(".Migrations", StringComparison.Ordinal))
            .Where(n => !Stages.Contains(said.GetValueOrDefault(n, "").Split(':')[0]));
    }

    private static IEnumerable<string> Namespaces(Assembly assembly) =>
        assembly
            .GetTypes()
            .Select(static t => t.Namespace ?? "")
            .Where(n => n.StartsWith(assembly.GetName().Name!, StringComparison.Ordinal))
            .Distinct();
}
