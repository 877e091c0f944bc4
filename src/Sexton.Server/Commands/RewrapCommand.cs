using Sexton.Data;
using Sexton.Data.Sealing;
using Sexton.Server.Common;

namespace Sexton.Server.Commands;

/// <summary>Wraps the keys in the database anew, after the key of the installation was turned over.</summary>
internal static class RewrapCommand
{
    public static async Task<int> RunAsync(WebApplication app)
    {
        await using var scope = app.Services.CreateAsyncScope();
        var (db, vault) = (scope.ServiceProvider.GetRequiredService<SextonDb>(), scope.ServiceProvider.GetRequiredService<KeyVault>());
        var count = await new KeyRewrapper(db, vault).RunAsync(CancellationToken.None);
        await KeyWrapper.RewrapAsync(db, vault, CancellationToken.None);
        Console.WriteLine($"{count} keys were wrapped anew. SEXTON__KEYBEFORE can be taken away.");
        return 0;
    }
}
