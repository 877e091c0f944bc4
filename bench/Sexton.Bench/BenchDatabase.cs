using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Core.Catalogue;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Server.Commands;
using Sexton.Server.Versions;

namespace Sexton.Bench;

/// <summary>A database for one run: migrated, with the catalogue and the fields of <see cref="BenchRegister"/>, dropped at the end.</summary>
internal sealed class BenchDatabase : IAsyncDisposable
{
    private readonly string _admin;
    private readonly string _name;

    private BenchDatabase(string admin, string name)
    {
        (_admin, _name) = (admin, name);
        Connection = new NpgsqlConnectionStringBuilder(admin) { Database = name, MaxPoolSize = 64 }.ConnectionString;
    }

    /// <summary>The connection string.</summary>
    public string Connection { get; }

    public static async Task<BenchDatabase> CreateAsync(string admin, string called = "", bool sends = false)
    {
        var database = new BenchDatabase(admin, string.Create(CultureInfo.InvariantCulture, $"bench_{Environment.ProcessId}{called}"));
        await ExecuteAsync(admin, $"create database {database._name}");
        await using var db = new SextonDb(SextonDbFactory.Options(database.Connection));
        await db.Database.MigrateAsync();
        var product = new Product("P", LanguageMap.Of("Product"), ["All"], 1000);
        var fields = BenchRegister.Of(BenchRegister.Order, BenchRegister.Line).Fields.Add(BenchRegister.Upload);
        if (sends)
        {
            fields = [.. fields.Select(static f => f.Type == "line_text" ? f with { GoesTo = ["back_office"] } : f)];
        }

        await ImportCommand.ImportAsync(
            db,
            new CatalogueFile("sexton-catalogue/4", [new("household", LanguageMap.Of("Household"))], [], [product], [], [], [], [], fields),
            BenchRegister.Kinds,
            DateTimeOffset.UtcNow
        );
        return database;
    }

    public async ValueTask DisposeAsync()
    {
        NpgsqlConnection.ClearAllPools();
        await ExecuteAsync(_admin, $"drop database {_name} with (force)");
    }

    private static async Task ExecuteAsync(string connection, string sql)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await using var command = source.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }
}
