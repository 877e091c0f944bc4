using System.Globalization;
using System.Text;
using MimeKit;
using Sexton.StandIns.Common;

namespace Sexton.StandIns.Mail;

/// <summary>A message as it was received.</summary>
/// <param name="Number">Counts up.</param>
/// <param name="At">When.</param>
/// <param name="From">The sender of the envelope.</param>
/// <param name="To">The recipients of the envelope.</param>
/// <param name="Raw">The bytes, in base 64.</param>
public sealed record ReceivedMessage(int Number, DateTimeOffset At, string From, IReadOnlyList<string> To, string Raw);

/// <summary>All messages that the mail stand-in received, and the page that shows them.</summary>
/// <param name="folder">The folder of its log.</param>
/// <param name="reports">Where a report is posted of what comes back; null for nowhere.</param>
public sealed class Mailbox(string folder, Uri? reports = null) : IDisposable
{
    private readonly Journal<ReceivedMessage> _journal = new(Path.Combine(folder, "mail.jsonl"));

    private const int MostTries = 20;
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(500);

    private readonly HttpClient _http = new();

    /// <summary>The fault dial.</summary>
    public Dial Dial { get; } = new();

    /// <summary>Keeps a message, and gives its number.</summary>
    public int Take(string from, IEnumerable<string> to, byte[] raw)
    {
        var kept = Dial.Now.ShortensTo > 0 ? Encoding.Latin1.GetBytes(Dial.Keep(Encoding.Latin1.GetString(raw))) : raw;
        return _journal
            .Add(all => new ReceivedMessage(all.Count + 1, DateTimeOffset.UtcNow, from, [.. to], Convert.ToBase64String(kept)))!
            .Number;
    }

    /// <summary>Sends a message back: a report (RFC 3464) that none of its recipients is there goes to the sender of its envelope.</summary>
    public void Return(string from, IEnumerable<string> to)
    {
        if (reports is not null)
        {
            _ = PostAsync(ReturnReport.Write(from, [.. to]));
        }
    }

    private async Task PostAsync(string report)
    {
        for (var tries = 0; tries < MostTries; tries++)
        {
            try
            {
                using var content = new StringContent(report, Encoding.ASCII, "message/rfc822");
                using var reply = await _http.PostAsync(reports, content);
                if (reply.IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (HttpRequestException)
            {
                // Whoever wanted it is not there.
            }

            await Task.Delay(Pause);
        }
    }

    /// <summary>Maps the pages and the dial.</summary>
    internal void Map(RouteGroupBuilder group)
    {
        group.MapDial(Dial);
        group.MapGet("", List);
        group.MapGet("messages", () => _journal.Entries);
        group.MapGet("{number:int}", Show);
        group.MapGet("{number:int}/html", (int number) => Find(number) is { } m ? Html(m) : Results.NotFound());
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _journal.Dispose();
        _http.Dispose();
    }

    private IResult List()
    {
        var rows = string.Concat(
            _journal
                .Entries.Reverse()
                .Take(200)
                .Select(m =>
                    $"<tr><td>{Time(m)}</td><td>{Page.Text(string.Join(", ", m.To))}</td><td><a href=\"/mail/{m.Number}\">{Page.Text(Parse(m).Subject ?? "(no subject)")}</a></td></tr>"
                )
        );
        return Page.Of(
            "Mailbox",
            $"<table><tr><th>Received</th><th>To</th><th>Subject</th></tr>{rows}</table>{Page.DialForm("/mail/dial", Dial.Now, Page.DialKind.Mail)}"
        );
    }

    private IResult Show(int number)
    {
        if (Find(number) is not { } message)
        {
            return Results.NotFound();
        }

        var parsed = Parse(message);
        return Page.Of(
            parsed.Subject ?? "(no subject)",
            $"""
            <p>To {Page.Text(string.Join(", ", message.To))}, received {Time(message)}, Message-ID {Page.Text(
                parsed.MessageId ?? "none"
            )}</p>
            <h2>HTML part</h2><iframe sandbox title="HTML part" src="/mail/{message.Number}/html"></iframe>
            <h2>Text part</h2><pre>{Page.Text(parsed.TextBody ?? "")}</pre>
            <h2>As received</h2><pre>{Page.Text(Encoding.Latin1.GetString(Convert.FromBase64String(message.Raw)))}</pre>
            """
        );
    }

    private static IResult Html(ReceivedMessage message) => Results.Content(Parse(message).HtmlBody ?? "", "text/html; charset=utf-8");

    private ReceivedMessage? Find(int number) => _journal.Entries.FirstOrDefault(m => m.Number == number);

    private static string Time(ReceivedMessage message) => message.At.ToString("d MMM, HH:mm:ss 'UTC'", CultureInfo.InvariantCulture);

    private static MimeMessage Parse(ReceivedMessage message)
    {
        using var stream = new MemoryStream(Convert.FromBase64String(message.Raw));
        return MimeMessage.Load(stream);
    }
}
