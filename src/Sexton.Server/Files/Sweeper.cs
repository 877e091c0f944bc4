using Sexton.Data.Files;
using Sexton.Server.Hosting;
using Sexton.Server.Shoppers;

namespace Sexton.Server.Files;

/// <summary>Clears away carts that nobody touches any more, files that no cart refers to, and sign-in links that have run out. In any number of processes: what one took the others do not find.</summary>
internal sealed class Sweeper(IServiceScopeFactory scopes, SextonOptions options, TimeProvider clock, ILogger<Sweeper> log)
    : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(10);

    /// <summary>Clears away what is due now.</summary>
    public async Task SweepAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var now = clock.GetUtcNow();
        var (carts, files) = await scope
            .ServiceProvider.GetRequiredService<FileStore>()
            .ClearAsync(now - TimeSpan.FromDays(options.CartDays), now - TimeSpan.FromHours(options.UnusedFileHours), cancel);
        await scope.ServiceProvider.GetRequiredService<SignInLinks>().ClearAsync(cancel);
        if (carts + files > 0)
        {
            log.LogInformation("Cleared away {Carts} carts and {Files} files", carts, files);
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await SweepAsync(stoppingToken);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogError(e, "Clearing away was interrupted");
            }
        }
    }
}
