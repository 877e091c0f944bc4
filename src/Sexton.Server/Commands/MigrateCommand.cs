using Microsoft.EntityFrameworkCore;
using Sexton.Core.Routing;
using Sexton.Data;

namespace Sexton.Server.Commands;

/// <summary>Migrates the schema, which a server never does by itself.</summary>
internal static class MigrateCommand
{
    public static async Task<int> RunAsync(WebApplication app)
    {
        await using var scope = app.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
        await RefuseNewerAsync(db);
        await db.Database.MigrateAsync();
        await OwnQuestions.AddMissingAsync(db, scope.ServiceProvider.GetRequiredService<DestinationKinds>());
        return 0;
    }

    /// <summary>Refuses to serve on a schema that is not this program's.</summary>
    public static async Task RefuseOtherSchemaAsync(IServiceProvider services)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
        await RefuseNewerAsync(db);
        var pending = (await db.Database.GetPendingMigrationsAsync()).ToList();
        if (pending.Count > 0)
        {
            throw new CommandException(
                $"The database's schema is older than this program ({pending.Count} migrations behind). Run ./sexton migrate first."
            );
        }
    }

    private static async Task RefuseNewerAsync(SextonDb db)
    {
        var unknown = (await db.Database.GetAppliedMigrationsAsync()).Except(db.Database.GetMigrations(), StringComparer.Ordinal).ToList();
        if (unknown.Count > 0)
        {
            throw new CommandException($"The database's schema is newer than this program (it has {unknown[^1]}). Run the newer program.");
        }
    }
}
