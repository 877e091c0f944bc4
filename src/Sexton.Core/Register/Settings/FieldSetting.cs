using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Register.Edits;
using Sexton.Core.Routing;

namespace Sexton.Core.Register.Settings;

/// <summary>How the interface says and offers something that is so or not.</summary>
/// <param name="Says">What the clause says while it is so: "sensitive, so covered on the order page until somebody asks".</param>
/// <param name="Offer">What is offered while it is not: "that it is sensitive".</param>
/// <param name="Withdraw">What takes it back: "take away".</param>
public sealed record ToggleWords(string Says, string Offer, string Withdraw);

/// <summary>What a change to the register needs to know beside its value.</summary>
/// <param name="Path">The whole path of the setting, for what is said when it is refused.</param>
/// <param name="Destinations">Where answers can go.</param>
public sealed record EditContext(string Path, DestinationIndex Destinations)
{
    /// <summary>The destination with a key.</summary>
    /// <exception cref="DraftEditException">There is none.</exception>
    internal BoundDestination Known(string destination) =>
        Destinations.Find(destination) ?? throw new DraftEditException(Path, $"There is no destination “{destination}”.");

    /// <summary>Routes with one switched on or off. What is not there any more can still be switched off.</summary>
    /// <exception cref="DraftEditException">There is no such destination, or it has no place for answers of the level.</exception>
    internal ImmutableSortedSet<string> Switched(ImmutableSortedSet<string> goesTo, Level level, string destination, bool on) =>
        on ? goesTo.Add(Taking(destination, level).Key)
        : goesTo.Contains(destination) ? goesTo.Remove(destination)
        : goesTo.Remove(Known(destination).Key);

    private BoundDestination Taking(string destination, Level level)
    {
        var known = Known(destination);
        return known.WhyLevelNotTaken(level) is { } why ? throw new DraftEditException(Path, why) : known;
    }
}

/// <summary>Which of the shop's own questions keep a setting as it is.</summary>
internal enum KeptBy
{
    /// <summary>None: it can be changed of every field.</summary>
    None,

    /// <summary>Those without which no order can be fulfilled.</summary>
    NeededOwn,

    /// <summary>All of them.</summary>
    AllOwn,
}

/// <summary>
/// One setting of a field. It says of itself how it is read and written, what values it takes, and how two fields that differ in it differ in words; so that one
/// more setting is one more entry in <see cref="FieldSettings"/>.
/// </summary>
/// <param name="name">Its name: the first part of the path, such as "label" of "label.en".</param>
public abstract class FieldSetting(string name)
{
    /// <summary>Its name.</summary>
    public string Name { get; } = name;

    /// <summary>Whether the path names a part of it: a language, a destination, a setting of the type.</summary>
    public bool HasParts { get; init; }

    /// <summary>How the interface draws it by itself, in the clause of the answer; null where it has a control of its own.</summary>
    public ToggleWords? Toggle { get; init; }

    /// <summary>The JSON Schema (draft 2020-12) of its value.</summary>
    public abstract JsonObject Schema { get; }

    /// <summary>The value of a field.</summary>
    /// <param name="field">The field.</param>
    /// <param name="part">The part; "" where it has none.</param>
    public abstract JsonElement Read(Field field, string part);

    /// <summary>The field with it changed.</summary>
    /// <param name="field">The field.</param>
    /// <param name="part">The part; "" where it has none.</param>
    /// <param name="value">The value.</param>
    /// <param name="at">The whole path, and where answers can go.</param>
    /// <exception cref="DraftEditException">The value does not fit it, or a question of the shop's own needs it as it is.</exception>
    public abstract Field Apply(Field field, string part, JsonElement value, EditContext at);

    /// <summary>The clauses in which two fields can differ by it; one that is the same on both sides is no difference.</summary>
    /// <param name="old">The older field; null where it is new.</param>
    /// <param name="then">Names things as the older register has them.</param>
    /// <param name="now">The newer field.</param>
    /// <param name="here">Names things as the newer register has them.</param>
    internal abstract IEnumerable<ClauseChange> Difference(Field? old, SideWords then, Field now, SideWords here);
}

/// <summary>A setting of values of one kind.</summary>
/// <typeparam name="T">The kind of value.</typeparam>
/// <param name="name">Its name.</param>
/// <param name="form">How such values are read.</param>
/// <param name="get">Gives the value of a field, and a part.</param>
/// <param name="set">Gives the field with another value; the last is the path, and where answers can go.</param>
internal sealed class FieldSetting<T>(
    string name,
    ValueForm<T> form,
    Func<Field, string, T> get,
    Func<Field, string, T, EditContext, Field> set
) : FieldSetting(name)
{
    /// <summary>The words before the clause and after it.</summary>
    public (string Lead, string Tail) Around { get; init; } = ("", "");

    /// <summary>The value in words, "" for nothing; null for a setting that another one speaks for.</summary>
    public Func<Field, SideWords, string>? Words { get; init; }

    /// <summary>Several clauses, where one does not do.</summary>
    public Func<Field?, SideWords, Field, SideWords, IEnumerable<ClauseChange>>? Clauses { get; init; }

    /// <summary>Whether it says where answers go.</summary>
    public bool AboutRoute { get; init; }

    /// <summary>Which of the shop's own questions keep it as it is.</summary>
    public KeptBy KeptBy { get; init; }

    /// <inheritdoc/>
    public override JsonObject Schema => (JsonObject)form.Schema.DeepClone();

    /// <inheritdoc/>
    public override JsonElement Read(Field field, string part) => EditValue.Json(get(field, part));

    /// <inheritdoc/>
    public override Field Apply(Field field, string part, JsonElement value, EditContext at) =>
        IsKeptBy(field)
            ? throw new DraftEditException(at.Path, $"“{field.Label}” is a question of the shop’s own: this stays as it is.")
            : set(field, part, form.Read(value, at.Path), at);

    private bool IsKeptBy(Field field) =>
        KeptBy == KeptBy.AllOwn ? field.BuiltIn : KeptBy == KeptBy.NeededOwn && BuiltInFields.MustBeAnswered(field.Key);

    /// <inheritdoc/>
    internal override IEnumerable<ClauseChange> Difference(Field? old, SideWords then, Field now, SideWords here) =>
        Clauses is not null ? Clauses(old, then, now, here)
        : Words is null ? []
        : [new(Around.Lead, old is null ? "" : Words(old, then), Words(now, here), Around.Tail, AboutRoute)];
}

/// <summary>How values of a kind are read from a change, and their schema.</summary>
/// <typeparam name="T">The kind of value.</typeparam>
/// <param name="Read">Reads a value; the second is the path, for what is said when it is refused.</param>
/// <param name="Schema">The JSON Schema (draft 2020-12).</param>
internal sealed record ValueForm<T>(Func<JsonElement, string, T> Read, JsonObject Schema);
