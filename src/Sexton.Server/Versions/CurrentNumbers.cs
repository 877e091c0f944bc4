using Npgsql;
using Sexton.Data;
using Sexton.Server.Common;

namespace Sexton.Server.Versions;

/// <summary>Which version and which catalogue are current.</summary>
/// <param name="Version">The number of the version; 0 before anything was published.</param>
/// <param name="Catalogue">The revision of the catalogue.</param>
internal sealed record Numbers(int Version, long Catalogue);

/// <summary>
/// Keeps the current numbers for as long as the database would tell of a change: it listens, forgets at every notice, and knows nothing
/// while the connection is away, so that whoever asks then asks the database.
/// </summary>
internal sealed class CurrentNumbers(SextonOptions options, ILogger<CurrentNumbers> log) : BackgroundService
{
    // A connection that died without a word is found by asking over it this often.
    private static readonly TimeSpan Alive = TimeSpan.FromSeconds(1);

    private readonly Lock _lock = new();
    private volatile Numbers? _last;
    private bool _listening;
    private long _told;

    /// <summary>The numbers, or null when somebody has to ask.</summary>
    public Numbers? Last => _last;

    /// <summary>How often the database told of a change. Taken before asking, so that an answer from before a change is not remembered.</summary>
    public long Told
    {
        get
        {
            lock (_lock)
            {
                return _told;
            }
        }
    }

    /// <summary>Remembers what the database said, unless it told of a change since.</summary>
    public void Remember(Numbers numbers, long told)
    {
        lock (_lock)
        {
            if (_listening && told == _told)
            {
                _last = numbers;
            }
        }
    }

    /// <summary>Forgets: this process changed something itself, and need not wait to be told.</summary>
    public void Forget() => Forget(null);

    private void Forget(bool? listening)
    {
        lock (_lock)
        {
            (_listening, _last) = (listening ?? _listening, null);
            _told++;
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await ListenAsync(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is NpgsqlException or TimeoutException or IOException)
            {
                Forget(listening: false);
                log.LogWarning("The database does not tell which version is current, each request asks it: {Reason}", e.Message);
                await Task.Delay(Alive, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private async Task ListenAsync(CancellationToken stop)
    {
        await using var connection = new NpgsqlConnection(
            new NpgsqlConnectionStringBuilder(options.Database) { Pooling = false, CommandTimeout = 1 }.ConnectionString
        );
        connection.Notification += (_, _) => Forget(listening: true);
        await connection.OpenAsync(stop);
        await ExecuteAsync(connection, $"listen {SextonDb.CurrentChannel}", stop);
        Forget(listening: true);
        while (true)
        {
            if (!await connection.WaitAsync(Alive, stop))
            {
                await ExecuteAsync(connection, "select 1", stop);
            }
        }
    }

    private static async Task ExecuteAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
