using System.Globalization;
using Sexton.StandIns.Common;

namespace Sexton.StandIns.Payments;

/// <summary>A charge as the provider keeps it.</summary>
/// <param name="Number">The provider's own number.</param>
/// <param name="Reference">The key under which it came: the attempt.</param>
/// <param name="At">When.</param>
/// <param name="AmountMinor">The amount.</param>
/// <param name="Currency">The currency.</param>
/// <param name="Event">"charged", "declined" or "voided".</param>
public sealed record Charge(string Number, string Reference, DateTimeOffset At, long AmountMinor, string Currency, string Event);

/// <summary>What is asked of the provider.</summary>
/// <param name="Reference">The key: the same reference is charged once.</param>
/// <param name="AmountMinor">The amount.</param>
/// <param name="Currency">The currency.</param>
/// <param name="Token">The one-time token for the card.</param>
public sealed record ChargeRequest(string Reference, long AmountMinor, string Currency, string Token);

/// <summary>A card, sent by the shopper's browser alone.</summary>
/// <param name="Card">The card number.</param>
public sealed record TokenRequest(string Card);

/// <summary>
/// The payment provider: gives the shopper's browser a token for a card, charges it when the shop asks, says what became of a
/// charge, and takes one back.
/// </summary>
public sealed class PaymentProvider(string folder) : IDisposable
{
    /// <summary>The cards that it knows. Major industry identifier 9 (ISO/IEC 7812) belongs to no card scheme.</summary>
    private static readonly Dictionary<string, string> Cards = new(StringComparer.Ordinal)
    {
        ["9000000000000019"] = "accept",
        ["9000000000000027"] = "decline",
        ["9000000000000035"] = "time-out",
    };

    private readonly Journal<Charge> _journal = new(Path.Combine(folder, "payments.jsonl"));

    /// <summary>The fault dial.</summary>
    public Dial Dial { get; } = new();

    /// <summary>Maps the service, its page and the dial.</summary>
    internal void Map(RouteGroupBuilder group)
    {
        group.MapDial(Dial);
        group.MapGet("", List);
        group.MapPost("tokens", Token).WithFaults(Dial).RequireCors();
        group.MapPost("charges", ChargeAsync).WithFaults(Dial);
        group.MapGet("charges", () => _journal.Entries);
        group
            .MapGet(
                "charges/{reference}",
                (string reference) => Last(_journal.Entries, reference) is { } c ? Results.Json(c) : Results.NotFound()
            )
            .WithFaults(Dial);
        group.MapPost("charges/{reference}/void", Void).WithFaults(Dial);
    }

    /// <inheritdoc/>
    public void Dispose() => _journal.Dispose();

    private static IResult Token(TokenRequest request)
    {
        var digits = string.Concat(request.Card.Where(char.IsAsciiDigit));
        return Cards.TryGetValue(digits, out var kind)
            ? Results.Json(new { token = $"{kind}_{Guid.NewGuid():N}" })
            : Results.Problem(statusCode: 422, detail: "This is not one of the test cards.");
    }

    private async Task<IResult> ChargeAsync(ChargeRequest request)
    {
        var kind = request.Token.Split('_')[0];
        Charge? before = null;
        var charge = _journal.Add(all =>
        {
            before = Last(all, request.Reference);
            return before is null
                ? new Charge(
                    $"CH-{50001 + all.Count}",
                    request.Reference,
                    DateTimeOffset.UtcNow,
                    request.AmountMinor,
                    request.Currency,
                    kind == "decline" ? "declined" : "charged"
                )
                : null;
        });
        if (kind == "time-out" && charge is not null)
        {
            // Charged, and then silent for longer than anybody waits.
            await Task.Delay(TimeSpan.FromSeconds(30));
        }

        return Results.Json(charge ?? before);
    }

    private IResult Void(string reference)
    {
        Charge? before = null;
        var voided = _journal.Add(all =>
        {
            before = Last(all, reference);
            return before is { Event: "charged" } ? before with { Event = "voided", At = DateTimeOffset.UtcNow } : null;
        });
        return (voided ?? before) is { } charge ? Results.Json(charge) : Results.NotFound();
    }

    private static Charge? Last(IReadOnlyList<Charge> all, string reference) => all.LastOrDefault(c => c.Reference == reference);

    private IResult List()
    {
        var rows = string.Concat(
            _journal
                .Entries.Reverse()
                .Take(200)
                .Select(static c =>
                    $"<tr><td>{c.Number}</td><td>{c.At.ToString("d MMM, HH:mm:ss 'UTC'", CultureInfo.InvariantCulture)}</td><td>{c.AmountMinor / 100m:0.00} {Page.Text(c.Currency)}</td><td>{c.Event}</td><td>{Page.Text(c.Reference)}</td></tr>"
                )
        );
        return Page.Of(
            "Payments",
            $"<table><tr><th>Number</th><th>When</th><th>Amount</th><th></th><th>Reference</th></tr>{rows}</table>{Page.DialForm("/payments/dial", Dial.Now)}"
        );
    }
}
