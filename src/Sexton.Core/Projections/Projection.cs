using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Asking;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Routing;
using Sexton.Core.Values;

namespace Sexton.Core.Projections;

/// <summary>What one destination gets of one order: a list of entries.</summary>
/// <param name="Entries">The entries: line by line, each with its units, then the order's own answers.</param>
public sealed record Projection(ImmutableArray<Entry> Entries)
{
    /// <summary>The entries that stand with a line and none of its units, or those that stand with the order for null.</summary>
    public IEnumerable<Entry> Of(string? lineId) =>
        Entries.Where(e => lineId is null ? e.StandsWith == Level.Order : e.StandsWith == Level.Line && e.LineId == lineId);

    /// <summary>The same without some slots.</summary>
    public Projection Without(IReadOnlyCollection<SlotId> slots) =>
        slots.Count == 0 ? this : new([.. Entries.Where(e => !slots.Contains(e.Slot))]);

    /// <summary>What of it is in another, too.</summary>
    public Projection Within(Projection other) => new([.. Entries.Where(e => other.Slots.Contains(e.Slot))]);

    /// <summary>Where all that goes there stands.</summary>
    [JsonIgnore]
    public IReadOnlySet<SlotId> Slots => Entries.Select(static e => e.Slot).ToHashSet();

    /// <summary>The number of each entry, from 1, by which an artefact can name its place.</summary>
    [JsonIgnore]
    public IReadOnlyDictionary<SlotId, int> Numbers =>
        Entries.Select(static (e, i) => (e.Slot, Number: i + 1)).ToDictionary(static n => n.Slot, static n => n.Number);

    /// <summary>Where what goes there is adapted to what it takes.</summary>
    [JsonIgnore]
    public IReadOnlySet<SlotId> Adapted => Entries.Where(static e => e.Given is not null).Select(static e => e.Slot).ToHashSet();

    /// <summary>
    /// What a page that showed answers before they were ordered should have shown: of what it had, that which was ordered, as it was ordered.
    /// </summary>
    /// <param name="order">The order that its cart became.</param>
    public Projection AsOrdered(OrderContent order)
    {
        var given = order.Answers.Where(static a => a.Value is not null).ToDictionary(static a => a.Slot);
        return new Projection([
            .. Entries
                .Where(e => given.ContainsKey(e.Slot))
                .Select(e => e with { Text = given[e.Slot].Text, Files = given[e.Slot].Value!.Files ?? [] }),
        ]);
    }

    /// <summary>The entries that stand with one unit of a line.</summary>
    public IEnumerable<Entry> Of(string lineId, string unitId) =>
        Entries.Where(e => e.StandsWith == Level.Unit && e.LineId == lineId && e.UnitId == unitId);
}

/// <summary>One answer as one destination gets it.</summary>
/// <param name="LineId">The line, or null for an answer of the order.</param>
/// <param name="UnitId">The unit within its line, or null for an answer of the line or order.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Name">What the answer is called there.</param>
/// <param name="Text">The text that must stand there, exactly.</param>
public sealed record Entry(string? LineId, string? UnitId, string Field, string Name, string Text)
{
    /// <summary>The files, where the answer is some.</summary>
    public ImmutableArray<FileValue> Files { get; init; } = [];

    /// <summary>What goes on in the note of its level, where it is too long for its own place; null for nothing.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Rest { get; init; }

    /// <summary>The text before it was adapted to what the destination takes; null where it stands there as it is.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Given { get; init; }

    /// <summary>Whether it stands there as a value under its name, and not as a line of text.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool AsValue { get; init; }

    /// <summary>Whether it stands there with the order, and not with the line or unit that it is about.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool WithOrder { get; init; }

    /// <summary>How often such an answer is given.</summary>
    [JsonIgnore]
    public Level Level =>
        LineId is null ? Level.Order
        : UnitId is null ? Level.Line
        : Level.Unit;

    /// <summary>With what it stands there.</summary>
    [JsonIgnore]
    public Level StandsWith => WithOrder ? Level.Order : Level;

    /// <summary>The slot where it stands.</summary>
    [JsonIgnore]
    public SlotId Slot => SlotId.Of(LineId, UnitId, Field);

    /// <summary>What must be found there, exactly: the text, or name, size and hash of every file.</summary>
    [JsonIgnore]
    public string Proof => Files.IsEmpty ? ProofOf(Text, Rest) : ProofOf(Files);

    /// <summary>What must be found of a text and of what goes on in a note.</summary>
    public static string ProofOf(string text, string? rest) => rest is null ? text : $"{text}\n{rest}";

    /// <summary>What must be found of files: a line for each.</summary>
    public static string ProofOf(IEnumerable<FileValue> files) => string.Join('\n', files);

    /// <inheritdoc/>
    public bool Equals(Entry? other) =>
        other is not null
        && (LineId, UnitId, Field, Name, Text) == (other.LineId, other.UnitId, other.Field, other.Name, other.Text)
        && (Rest, Given, AsValue, WithOrder) == (other.Rest, other.Given, other.AsValue, other.WithOrder)
        && Files.SequenceEqual(other.Files);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(LineId, UnitId, Field, Name, Text, Files.Length);
}

/// <summary>Projects an order or a cart onto a destination.</summary>
public static class Projector
{
    /// <summary>
    /// What a destination gets: the answers given, by the order's own version, whose field goes there by the current one.
    /// An answer left empty has no entry.
    /// </summary>
    /// <param name="order">The order as placed.</param>
    /// <param name="own">The version of the register under which it was placed, which says what its answers can be.</param>
    /// <param name="current">The current version of the register, which says what goes where, and what it is called there.</param>
    /// <param name="destination">The key of the destination.</param>
    /// <example><code>Projector.Project(order, own, current, "back_office").Entries // what the back office gets, line by line</code></example>
    public static Projection Project(OrderContent order, RegisterPlan own, RegisterPlan current, string destination) =>
        Project(order, own, current, destination, OrderPart.Whole);

    /// <summary>What a destination gets of a part of an order.</summary>
    /// <inheritdoc cref="Project(OrderContent, RegisterPlan, RegisterPlan, string)"/>
    /// <param name="order">The order as placed.</param>
    /// <param name="own">The version of the register under which it was placed, which says what its answers can be.</param>
    /// <param name="current">The current version of the register, which says what goes where, and what it is called there.</param>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="part">The part.</param>
    public static Projection Project(OrderContent order, RegisterPlan own, RegisterPlan current, string destination, OrderPart part)
    {
        var to = current.Destinations.Find(destination);
        return new Projection([
            .. Going(order, current, to, destination, part)
                .Where(static a => a.Value is not null)
                .Select(a => EntryOf(a, to, own, order.Language)),
        ]);
    }

    /// <summary>What was asked of a part of an order, goes to a destination and was left empty: entries without a text.</summary>
    /// <param name="order">The order as placed.</param>
    /// <param name="own">The version of the register under which it was placed.</param>
    /// <param name="current">The current version of the register.</param>
    /// <param name="to">The destination.</param>
    /// <param name="part">The part.</param>
    public static ImmutableArray<Entry> LeftEmpty(
        OrderContent order,
        RegisterPlan own,
        RegisterPlan current,
        BoundDestination to,
        OrderPart part
    ) =>
        [
            .. Going(order, current, to, to.Key, part)
                .Where(static a => a.Value is null)
                .Select(a => new Entry(a.LineId, a.UnitId, a.Field, NameOf(a, to, own, order.Language), "")
                {
                    WithOrder = a.LineId is not null && to.IsWithOrder(a.Field),
                }),
        ];

    // All that was asked and goes there, given or left empty, as it stands there.
    private static IEnumerable<OrderAnswer> Going(
        OrderContent order,
        RegisterPlan current,
        BoundDestination? to,
        string destination,
        OrderPart part
    )
    {
        var facts = new OrderFacts(order);
        var lines = to is null
            ? null
            : OrderParts.LinesOf(order, facts, to, part).Select(static l => l.Id).ToHashSet(StringComparer.Ordinal);
        var going = order
            .Answers.Where(a =>
                part.Has(a.LineId, a.UnitId)
                && (a.LineId is null || lines?.Contains(a.LineId) != false)
                && current.Find(a.Field) is { } field
                && Goes(field, destination, facts, facts.PlaceOf(a))
            )
            .ToLookup(static a => (a.LineId, a.UnitId));
        return facts
            .Places()
            .Select(p => (facts.LineIdAt(p), facts.UnitIdAt(p)))
            .SelectMany(p => InOrder(going[p], static a => a.Field, to?.Plain.Order ?? []));
    }

    // As the destination wants them; what it says nothing of follows, as it was asked.
    private static IEnumerable<T> InOrder<T>(IEnumerable<T> answers, Func<T, string> field, ImmutableArray<string> order) =>
        order.IsEmpty ? answers : answers.OrderBy(a => order.IndexOf(field(a)) is >= 0 and var at ? at : int.MaxValue);

    private static Entry EntryOf(OrderAnswer answer, BoundDestination? to, RegisterPlan own, string ofOrder)
    {
        var language = to?.LanguageOf(ofOrder) ?? ofOrder;
        var entry = new Entry(
            answer.LineId,
            answer.UnitId,
            answer.Field,
            NameOf(answer, to, own, ofOrder),
            TextOf(answer, to, own, language, language == ofOrder)
        )
        {
            Files = answer.Value!.Files ?? [],
            AsValue = to?.IsAsValue(answer.Field) == true,
            WithOrder = answer.LineId is not null && to?.IsWithOrder(answer.Field) == true,
        };
        return to is null ? entry : Fitting.Fit(entry, to);
    }

    private static string NameOf(OrderAnswer answer, BoundDestination? to, RegisterPlan own, string ofOrder)
    {
        var language = to?.LanguageOf(ofOrder) ?? ofOrder;
        return to?.NameThere(answer.Field, language) is { } name ? name
            : language == ofOrder ? answer.Label
            : own.Find(answer.Field)?.Field.Label.In(language) ?? answer.Label;
    }

    private static string TextOf(OrderAnswer answer, BoundDestination? to, RegisterPlan own, string language, bool isOfOrder)
    {
        var forSystem = to?.Kind.Audience == Audience.Program;
        if ((isOfOrder && to?.NamesOf(answer.Field).Words is not { IsEmpty: false }) || own.Find(answer.Field) is not { } field)
        {
            return forSystem ? answer.SystemText ?? answer.Text : answer.Text;
        }

        var rule = to!.RuleOf(answer.Field, field.Rule);
        return forSystem ? rule.SystemTextOf(answer.Value!, language) : rule.TextOf(answer.Value!, language);
    }

    /// <summary>What a page of the cart shows of the answers that it has so far.</summary>
    public static Projection Project(Evaluation cart, string destination)
    {
        var (order, language) = (cart.Plan.Destinations.Find(destination)?.Plain.Order ?? [], cart.Cart.Language);
        var entries = cart
            .Asked.Where(a => a.Value is not null && Goes(a.Field, destination, cart.Facts, a.Place))
            .GroupBy(static a => a.Place)
            .SelectMany(place => InOrder(place, static a => a.Field.Key, order))
            .Select(a => new Entry(a.LineId, a.UnitId, a.Field.Key, a.Field.Label.In(language), a.TextIn(language))
            {
                Files = a.Value!.Files ?? [],
            });
        return new Projection([.. entries]);
    }

    private static bool Goes(PlannedField field, string destination, IFacts facts, Place place) =>
        field.Field.GoesTo.Contains(destination) && (!field.RouteWhen.TryGetValue(destination, out var when) || when.Holds(facts, place));
}
