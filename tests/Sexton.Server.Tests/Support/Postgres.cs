using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Data;
using Sexton.Server.Commands;

namespace Sexton.Server.Tests.Support;

/// <summary>Databases for tests: a template is made once, and every class clones it.</summary>
internal static class Postgres
{
    private static readonly SemaphoreSlim Gate = new(1, 1);
    private static string? _template;
    private static int _count;

    private static string Admin =>
        Environment.GetEnvironmentVariable("SEXTON_TEST_DATABASE")
        ?? throw new InvalidOperationException("These tests want a database. Run them with ./sexton test.");

    private static string RepositoryRoot => Environment.GetEnvironmentVariable("SEXTON_TEST_ROOT")!;

    /// <summary>A file of the repository.</summary>
    public static string PathOf(string relative) => Path.Combine(RepositoryRoot, relative);

    /// <summary>The connection string of a new database with the demo catalogue and the accounts.</summary>
    public static async Task<string> CloneAsync()
    {
        await Gate.WaitAsync();
        try
        {
            _template ??= await MakeTemplateAsync();
            var name = string.Create(CultureInfo.InvariantCulture, $"t{Environment.ProcessId}_{++_count}");
            await ExecuteAsync(Admin, $"create database {name} template {_template}");
            return To(name);
        }
        finally
        {
            Gate.Release();
        }
    }

    /// <summary>An empty database, without a schema.</summary>
    public static async Task<string> EmptyAsync()
    {
        var name = string.Create(CultureInfo.InvariantCulture, $"e{Environment.ProcessId}_{Interlocked.Increment(ref _count)}");
        // Of a process of before that had the same number, in a cluster that was kept.
        await ExecuteAsync(Admin, $"drop database if exists {name}");
        await ExecuteAsync(Admin, $"create database {name}");
        return To(name);
    }

    /// <summary>Runs a statement.</summary>
    public static async Task ExecuteAsync(string connection, string sql)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await using var command = source.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>One value.</summary>
    public static async Task<T> ScalarAsync<T>(string connection, string sql)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await using var command = source.CreateCommand(sql);
        return (T)(await command.ExecuteScalarAsync())!;
    }

    /// <summary>The values of one column.</summary>
    public static async Task<IReadOnlyList<T>> ListAsync<T>(string connection, string sql)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await using var command = source.CreateCommand(sql);
        await using var reader = await command.ExecuteReaderAsync();
        var all = new List<T>();
        while (await reader.ReadAsync())
        {
            all.Add(reader.GetFieldValue<T>(0));
        }

        return all;
    }

    private static string To(string database) =>
        new NpgsqlConnectionStringBuilder(Admin)
        {
            Database = database,
            Pooling = true,
            MaxPoolSize = 40,
        }.ConnectionString;

    private static async Task<string> MakeTemplateAsync()
    {
        var name = string.Create(CultureInfo.InvariantCulture, $"template_{Environment.ProcessId}");
        // Of a process of before that had the same number, in a cluster that was kept.
        await ExecuteAsync(Admin, $"drop database if exists {name}");
        await ExecuteAsync(Admin, $"create database {name}");
        var connection = new NpgsqlConnectionStringBuilder(To(name)) { Pooling = false }.ConnectionString;
        await using (var db = new SextonDb(SextonDbFactory.Options(connection)))
        {
            await db.Database.MigrateAsync();
        }

        await using var app = Hosting.SextonHost.Build(World.Arguments(connection), works: false);
        (await ImportCommand.RunAsync(app, PathOf("demo/catalogue.json"))).ShouldBe(0);
        foreach (
            var (email, who, role) in new[]
            {
                (World.Manager, "Imre Halloway", "manager"),
                (World.OtherManager, "Bron Tilly", "manager"),
                (World.Support, "Tamsin Oakes", "support"),
            }
        )
        {
            Console.SetIn(new StringReader(World.Password));
            (await AccountCommand.RunAsync(app, email, who, role)).ShouldBe(0);
        }

        return name;
    }
}
