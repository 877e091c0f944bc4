using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.StandIns.Common;

namespace Sexton.StandIns.Events;

/// <summary>An event as it came.</summary>
/// <param name="Id">Its id, by which it is told apart.</param>
/// <param name="At">When it came.</param>
/// <param name="Headers">The three headers of its signature.</param>
/// <param name="ContentType">What it says that it is.</param>
/// <param name="Body">The body, byte by byte.</param>
/// <param name="Secrets">How many of the secrets that the board knows its signatures were made with.</param>
public sealed record ToldEntry(
    string Id,
    DateTimeOffset At,
    IReadOnlyDictionary<string, string> Headers,
    string ContentType,
    string Body,
    int Secrets
);

/// <summary>
/// A screen at the counter that shows what can be fetched: it is told events by POST, believes those that one of its secrets signed (Standard Webhooks) not longer
/// than five minutes ago, and takes one that comes again without showing it again.
/// </summary>
/// <param name="file">The file of its journal.</param>
/// <param name="secrets">The secrets that it knows; empty to believe anybody.</param>
public sealed class PickUpBoard(string file, IReadOnlyList<string> secrets) : IDisposable
{
    private const string Prefix = "whsec_";
    private static readonly TimeSpan Oldest = TimeSpan.FromMinutes(5);
    private static readonly string[] Signed = ["webhook-id", "webhook-timestamp", "webhook-signature"];
    private static readonly JsonSerializerOptions Readable = new()
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private readonly Journal<ToldEntry> _journal = new(file);

    /// <summary>The fault dial.</summary>
    public Dial Dial { get; } = new();

    /// <inheritdoc/>
    public void Dispose() => _journal.Dispose();

    /// <summary>Maps the service, its page and the dial.</summary>
    internal void Map(RouteGroupBuilder group)
    {
        group.MapDial(Dial);
        group.MapGet("", List);
        group.MapPost("told", TakeAsync).WithFaults(Dial);
        group.MapGet("told", () => _journal.Entries);
        group.MapGet(
            "{at:int}/page",
            (int at) =>
                _journal.Entries.ElementAtOrDefault(at) is { } e
                    ? Page.Of(
                        $"Event {at + 1}",
                        $"<p>{Page.Text(Time(e))}, signed with {e.Secrets} of the secrets known here</p><pre>{Page.Text(string.Join('\n', e.Headers.Select(static h => $"{h.Key}: {h.Value}")))}</pre><pre>{Page.Text(JsonNode.Parse(e.Body)!.ToJsonString(Readable))}</pre>"
                    )
                    : Results.NotFound()
        );
    }

    private async Task<IResult> TakeAsync(HttpRequest request)
    {
        if (Dial.Now.Gone)
        {
            return Results.Problem(statusCode: 410, detail: "Nobody looks at this board any more.");
        }

        using var bytes = new MemoryStream();
        await request.Body.CopyToAsync(bytes);
        var headers = Signed.ToDictionary(static name => name, name => request.Headers[name].ToString(), StringComparer.Ordinal);
        var count = secrets.Count(secret => IsSignedBy(secret, headers, bytes.ToArray()));
        if (!IsFresh(headers["webhook-timestamp"]) || (count == 0 && secrets.Count > 0))
        {
            return Results.Problem(statusCode: 401, detail: "Who says so?");
        }

        var id = headers["webhook-id"];
        _journal.Add(all =>
            all.Any(e => e.Id == id)
                ? null
                : new ToldEntry(
                    id,
                    DateTimeOffset.UtcNow,
                    headers,
                    request.ContentType ?? "",
                    Encoding.UTF8.GetString(bytes.ToArray()),
                    count
                )
        );
        return Results.NoContent();
    }

    private static bool IsFresh(string timestamp) =>
        long.TryParse(timestamp, NumberStyles.None, CultureInfo.InvariantCulture, out var seconds)
        && (DateTimeOffset.UtcNow - DateTimeOffset.FromUnixTimeSeconds(Math.Min(seconds, uint.MaxValue))).Duration() < Oldest;

    private static bool IsSignedBy(string secret, Dictionary<string, string> headers, byte[] body)
    {
        var key = Convert.FromBase64String(secret.StartsWith(Prefix, StringComparison.Ordinal) ? secret[Prefix.Length..] : secret);
        byte[] signed = [.. Encoding.UTF8.GetBytes($"{headers["webhook-id"]}.{headers["webhook-timestamp"]}."), .. body];
        var wanted = "v1," + Convert.ToBase64String(HMACSHA256.HashData(key, signed));
        return headers["webhook-signature"].Split(' ').Contains(wanted, StringComparer.Ordinal);
    }

    private IResult List()
    {
        var rows = string.Concat(
            _journal
                .Entries.Select(static (e, at) => (Entry: e, At: at, Event: JsonNode.Parse(e.Body)!))
                .Reverse()
                .Take(200)
                .Select(e =>
                    $"<tr><td><a href=\"/board/{e.At}/page\">{e.At + 1}</a></td><td>{Page.Text(Time(e.Entry))}</td><td>{Page.Text(e.Event["type"]?.ToString() ?? "")}</td><td>{Page.Text(e.Event["subject"]?.ToString() ?? "")}</td><td>{Page.Text(e.Event["data"]?["about"]?.ToJsonString() ?? "")}</td></tr>"
                )
        );
        return Page.Of(
            "Pick-up board",
            $"<table><tr><th></th><th>Came</th><th>What</th><th>Order</th><th>About</th></tr>{rows}</table>{Page.DialForm("/board/dial", Dial.Now, Page.DialKind.Events)}"
        );
    }

    private static string Time(ToldEntry entry) => entry.At.ToString("d MMM, HH:mm:ss 'UTC'", CultureInfo.InvariantCulture);
}
