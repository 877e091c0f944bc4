using System.Reflection;
using Sexton.Tests;

namespace Sexton.Server.Tests;

/// <summary>The direction of dependencies: server → data, destinations → core; the stand-ins know nobody.</summary>
public sealed class ArchitectureTests
{
    [Theory]
    [InlineData("Sexton.Core", "")]
    [InlineData("Sexton.Data", "Sexton.Core")]
    [InlineData("Sexton.Destinations", "Sexton.Core")]
    [InlineData("Sexton.StandIns", "")]
    [InlineData("Sexton.Server", "Sexton.Core Sexton.Data Sexton.Destinations")]
    public void A_project_knows_only_those_below_it(string name, string allowed)
    {
        var known = Assembly
            .Load(name)
            .GetReferencedAssemblies()
            .Select(a => a.Name!)
            .Where(n => n.StartsWith("Sexton.", StringComparison.Ordinal));
        known.ShouldBeSubsetOf(allowed.Split(' '));
    }

    [Fact]
    public void The_core_knows_no_web_no_database_and_no_files()
    {
        var assembly = Assembly.Load("Sexton.Core");
        assembly
            .GetReferencedAssemblies()
            .Select(a => a.Name!)
            .ShouldNotContain(n =>
                n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal)
                || n.StartsWith("Microsoft.EntityFrameworkCore", StringComparison.Ordinal)
                || n.StartsWith("Npgsql", StringComparison.Ordinal)
                || n.StartsWith("System.Net.Http", StringComparison.Ordinal)
                || n.StartsWith("System.Net.Sockets", StringComparison.Ordinal)
                || n.StartsWith("System.IO.FileSystem", StringComparison.Ordinal)
            );
    }

    private static readonly string[] ServerFolders =
    [
        "Common",
        "Accounts",
        "Settings",
        "Versions",
        "Speech",
        "Connections",
        "Shoppers",
        "Carts",
        "Files",
        "Shop",
        "Orders",
        "Papers",
        "Makers",
        "Deliveries",
        "Attempts",
        "Fields",
        "Products",
        "Publishing",
        "Retention",
        "Hosting",
        "Commands",
    ];

    public static IEnumerable<TheoryDataRow<string>> Names => ServerFolders.Select(static f => new TheoryDataRow<string>(f));

    [Theory]
    [MemberData(nameof(Names))]
    public void A_folder_of_the_server_uses_only_those_before_it(string folder) =>
        Folders.UsingLater(Assembly.Load("Sexton.Server"), ServerFolders, folder).ShouldBeEmpty();

    [Fact]
    public void Every_type_of_the_server_stands_in_a_folder_of_the_order() =>
        Folders.Of(Assembly.Load("Sexton.Server")).Order().ShouldBe(ServerFolders.Order());

    [Theory]
    [InlineData("Sexton.Data")]
    [InlineData("Sexton.Destinations")]
    [InlineData("Sexton.Server")]
    public void Every_folder_says_which_stage_it_is(string assembly) => Folders.WithoutStage(Assembly.Load(assembly)).ShouldBeEmpty();
}
