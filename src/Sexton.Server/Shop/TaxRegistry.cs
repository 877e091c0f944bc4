using System.Collections.Concurrent;
using System.Net;
using Sexton.Core.Types;
using Sexton.Server.Common;

namespace Sexton.Server.Shop;

/// <summary>
/// Asks the registry of tax numbers, and remembers for a while what it said: a shopper goes on typing, and the number stays the same.
/// </summary>
internal sealed class TaxRegistry(IHttpClientFactory clients, TimeProvider clock)
{
    /// <summary>The name of its HTTP client.</summary>
    public const string Client = "tax registry";

    // More than these are not looked up in an hour by people.
    private const int Most = 10_000;

    private static readonly TimeSpan Said = TimeSpan.FromHours(1);
    private static readonly TimeSpan Silent = TimeSpan.FromSeconds(10);

    private readonly ConcurrentDictionary<string, (RegistryFinding Finding, DateTimeOffset Until)> _known = new(StringComparer.Ordinal);

    /// <summary>What it says of a number.</summary>
    /// <param name="number">The canonical number, its country first.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<RegistryFinding> AskAsync(string number, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        if (_known.TryGetValue(number, out var known) && known.Until > now)
        {
            return known.Finding;
        }

        var finding = await LookUpAsync(number, cancel);
        if (_known.Count >= Most)
        {
            _known.Clear();
        }

        _known[number] = (finding, now + (finding == RegistryFinding.Unreachable ? Silent : Said));
        return finding;
    }

    private async Task<RegistryFinding> LookUpAsync(string number, CancellationToken cancel)
    {
        try
        {
            using var http = clients.CreateClient(Client);
            using var reply = await http.GetAsync(new Uri($"{number[..2]}/{Uri.EscapeDataString(number[2..])}", UriKind.Relative), cancel);
            return reply.IsSuccessStatusCode ? RegistryFinding.Valid
                : reply.StatusCode == HttpStatusCode.NotFound ? RegistryFinding.Unknown
                : RegistryFinding.Unreachable;
        }
        catch (Exception e) when (TransientErrors.IsTransient(e, cancel))
        {
            return RegistryFinding.Unreachable;
        }
    }
}
