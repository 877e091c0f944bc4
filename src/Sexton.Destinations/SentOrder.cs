using System.Collections.Immutable;
using System.Globalization;
using Sexton.Core.Codes;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Destinations.Email;
using Sexton.Destinations.Events;
using Sexton.Destinations.Invoices;

namespace Sexton.Destinations;

/// <summary>An order with what one destination is to get of it.</summary>
/// <param name="Id">The id of the order.</param>
/// <param name="Number">The number that people use.</param>
/// <param name="PlacedAt">When it was placed.</param>
/// <param name="Content">The order as placed.</param>
/// <param name="Projection">What the destination gets.</param>
/// <param name="To">The destination.</param>
public sealed record SentOrder(
    Guid Id,
    long Number,
    DateTimeOffset PlacedAt,
    OrderContent Content,
    Projection Projection,
    BoundDestination To
)
{
    /// <summary>The part of the order that goes.</summary>
    public OrderPart Part { get; init; } = OrderPart.Whole;

    /// <summary>To whom it goes instead, where it is only tried out; empty where it is meant.</summary>
    public ImmutableArray<string> TrialRecipients { get; init; } = [];

    /// <summary>The number under which it is issued, where it is an invoice or takes one back; null where it is only looked at.</summary>
    public IssuedNumber? Issued { get; init; }

    /// <summary>What the destination is told, where it is told events; null where nothing happened that it is told, or it gets the order itself.</summary>
    public ToldEvent? Told { get; init; }

    /// <summary>The papers that go with it.</summary>
    public ImmutableArray<CarriedPaper> Papers { get; init; } = [];

    /// <summary>The pictures among the files that go there, as data URIs (RFC 2397), by the SHA-256 of the file.</summary>
    public ImmutableDictionary<string, string> Pictures { get; init; } = ImmutableDictionary<string, string>.Empty;

    /// <summary>What the answers to all fields that go there are called there, in the order of the register.</summary>
    public ImmutableArray<string> NamesOfAnswers { get; init; } = [];

    /// <summary>What was asked, goes there and was left empty: entries without a text.</summary>
    public ImmutableArray<Entry> LeftEmpty { get; init; } = [];

    /// <summary>Whether prices stand there, as far as its kind shows any.</summary>
    public bool ShowsPrices => To.HasPrices(new OrderFacts(Content));

    /// <summary>The lines that go.</summary>
    public ImmutableArray<OrderLine> Lines { get; init; } = Content.Lines;

    /// <summary>What tells it apart from whatever else is sent of the order: the destination, and the line or unit that goes.</summary>
    public string Reference => To.Key + Part.ToString().Replace('/', '.');

    /// <summary>The idempotency key of a payload: the same whenever it is sent.</summary>
    /// <param name="sequence">The number of the payload.</param>
    public string KeyOf(int sequence) => string.Create(CultureInfo.InvariantCulture, $"{Id:N}/{To.Key}{Part}/{sequence}");

    /// <summary>The name by which people tell a payload apart, once at its destination: "1042", and "1042-2" for the second.</summary>
    /// <param name="sequence">The number of the payload.</param>
    public string NameOf(int sequence) =>
        string.Create(CultureInfo.InvariantCulture, $"{Number}{Part.ToString().Replace('/', '-')}{(sequence > 1 ? $"-{sequence}" : "")}");

    /// <summary>The name of a file of what goes: "tickets-1042-1-2.pdf" for the second unit of the first line.</summary>
    /// <param name="form">What the name ends in.</param>
    public string FileNameAs(string form)
    {
        var line = Part.LineId.Length == 0 ? "" : string.Create(CultureInfo.InvariantCulture, $"-{LineNumbers[Part.LineId]}");
        var unit =
            Part.UnitId.Length == 0 ? "" : string.Create(CultureInfo.InvariantCulture, $"-{Lines[0].Units.IndexOf(Part.UnitId) + 1}");
        return string.Create(CultureInfo.InvariantCulture, $"{To.Key.Replace('_', '-')}-{Number}{line}{unit}.{form}");
    }

    /// <summary>The prices as the destination shows them.</summary>
    public IReadOnlyList<OrderPrice> PriceRows { get; init; } = Content.Prices.Rows;

    /// <summary>What it comes to, as the destination shows it.</summary>
    public PriceList Prices => Content.Prices with { Rows = PriceRows };

    /// <summary>How its lines leave for the destination, where nothing is said of their product, or of the field of a component.</summary>
    public LineLeaving Leaving { get; init; }

    /// <summary>How a component of a line leaves for the destination.</summary>
    /// <param name="line">The line.</param>
    /// <param name="field">The key of the field that chose the component.</param>
    public LineLeaving LeavingOf(OrderLine line, string field) =>
        To.Plain.FieldsLeave.TryGetValue(field, out var leaving) || To.Plain.ProductsLeave.TryGetValue(line.ProductCode, out leaving)
            ? leaving
            : Leaving;

    /// <summary>The destination's own item codes, by those of the shop; null where it goes by these.</summary>
    public IReadOnlyDictionary<string, string>? CodesThere { get; init; }

    /// <summary>The item code under which a line goes; that of the shop where the destination has none of its own for it.</summary>
    public string ItemCodeOf(OrderLine line) => CodesThere?.GetValueOrDefault(line.ItemCode) ?? line.ItemCode;

    /// <summary>The item codes of its lines for which the destination has none of its own.</summary>
    public IEnumerable<string> Unmatched =>
        CodesThere is null ? [] : Lines.Select(static l => l.ItemCode).Where(code => !CodesThere.ContainsKey(code)).Distinct();

    /// <summary>Why it cannot go as it is, in a sentence: what changed since it was placed, or does not fit, is not guessed at. Null where it can.</summary>
    public string? WhyStops =>
        Lines.IsEmpty ? $"None of its lines goes to {To.Phrase} any more."
        : Unmatched.FirstOrDefault() is { } code ? $"There is no code for {code} in {To.Phrase}. Match it with one of theirs."
        : Fitting.WhyStops(Projection, To);

    /// <summary>The position of each line in the order, from 1, by its id.</summary>
    public IReadOnlyDictionary<string, int> LineNumbers { get; } =
        Content.Lines.Select((line, i) => (line.Id, i)).ToDictionary(l => l.Id, l => l.i + 1, StringComparer.Ordinal);
}

/// <summary>What sending gave.</summary>
/// <param name="Outcome">How it ended.</param>
/// <param name="Detail">What happened, in a sentence.</param>
/// <param name="Receipt">The other side's number or acknowledgement, when it took it.</param>
/// <param name="Artefact">The bytes to keep as evidence: those handed over, or those read back from the other side.</param>
public sealed record SendResult(SendOutcome Outcome, string Detail, string? Receipt = null, byte[]? Artefact = null);
