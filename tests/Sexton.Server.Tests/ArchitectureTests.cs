using System.Reflection;

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
}
