using Sexton.StandIns.Common;

namespace Sexton.StandIns.TaxRegistry;

/// <summary>What the registry was asked.</summary>
/// <param name="Number">The number, its country first.</param>
/// <param name="At">When.</param>
/// <param name="Known">Whether it knew it.</param>
public sealed record Inquiry(string Number, DateTimeOffset At, bool Known);

/// <summary>The registry of tax numbers: GET {country}/{number} gives the entry, or 404 for a number that was given to nobody.</summary>
public sealed class TaxRegistry(string folder) : IDisposable
{
    /// <summary>The numbers that were given out. They pass the published check digits and belong to nobody.</summary>
    private static readonly HashSet<string> Given = new(StringComparer.Ordinal) { "IE0000264TA", "IE0000173H", "DE271828180" };

    private readonly Journal<Inquiry> _journal = new(Path.Combine(folder, "tax-registry.jsonl"));

    /// <summary>The fault dial.</summary>
    public Dial Dial { get; } = new();

    /// <summary>Maps the service, its page and the dial.</summary>
    internal void Map(RouteGroupBuilder group)
    {
        group.MapDial(Dial);
        group.MapGet("", List);
        group.MapGet("inquiries", () => _journal.Entries);
        group.MapGet("{country}/{number}", Find).WithFaults(Dial);
    }

    /// <inheritdoc/>
    public void Dispose() => _journal.Dispose();

    private IResult Find(string country, string number)
    {
        var inquiry = _journal.Add(_ => new Inquiry(country + number, DateTimeOffset.UtcNow, Given.Contains(country + number)))!;
        return inquiry.Known ? Results.Json(new { country, number }) : Results.NotFound();
    }

    private IResult List()
    {
        var rows = string.Concat(
            _journal
                .Entries.Reverse()
                .Take(200)
                .Select(static i => $"<tr><td>{Page.Text(i.Number)}</td><td>{i.At:u}</td><td>{(i.Known ? "known" : "not known")}</td></tr>")
        );
        return Page.Of(
            "Registry of tax numbers",
            $"<p>It knows {string.Join(", ", Given.Order(StringComparer.Ordinal))}.</p><table><tr><th>Number</th><th>Asked</th><th>Answer</th></tr>{rows}</table>{Page.DialForm("/tax-registry/dial", Dial.Now)}"
        );
    }
}
