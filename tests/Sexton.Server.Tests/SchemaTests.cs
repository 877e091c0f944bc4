using Sexton.Server.Commands;
using Sexton.Server.Common;
using Sexton.Server.Hosting;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>A server refuses a schema that is not its own, and says what to do.</summary>
public sealed class SchemaTests
{
    [Fact]
    public async Task An_older_schema_is_refused()
    {
        var refused = await RefusedAsync(await Postgres.EmptyAsync());
        refused.ShouldContain("./sexton migrate");
    }

    [Fact]
    public async Task A_newer_schema_is_refused()
    {
        var database = await Postgres.CloneAsync();
        await Postgres.ExecuteAsync(database, "insert into \"__EFMigrationsHistory\" values ('99990101000000_Tomorrow', '99')");
        (await RefusedAsync(database)).ShouldContain("99990101000000_Tomorrow");
    }

    [Theory]
    [InlineData("", "AAAA", "SEXTON__DATABASE")]
    [InlineData("Host=x", "AAAA", "SEXTON__KEY")]
    [InlineData("Host=x", "", "SEXTON__KEY")]
    public void A_missing_setting_is_named(string database, string key, string name) =>
        new SextonOptions { Database = database, Key = key }
            .Problems()
            .ShouldContain(p => p.Contains(name, StringComparison.Ordinal));

    private static async Task<string> RefusedAsync(string database)
    {
        await using var app = SextonHost.Build(World.Arguments(database), works: false);
        return (await Should.ThrowAsync<CommandException>(() => MigrateCommand.RefuseOtherSchemaAsync(app.Services))).Message;
    }
}
