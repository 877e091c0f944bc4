using System.Collections.Immutable;

namespace Sexton.Core.Register.Types;

/// <summary>The index of all kinds of answer.</summary>
public sealed class FieldTypes
{
    /// <summary>The kinds of answer that Sexton has.</summary>
    public static readonly FieldTypes Standard = new(
    [
        new LineText(),
        new LongText(),
        new NumberWithUnit(),
        new CalendarDay(),
        new YesOrNo(),
        new OneOf(),
        new SeveralOf(),
        new PersonName(),
        new EmailAddress(),
        new Telephone(),
        new PostalAddress(),
    ]);

    private readonly ImmutableDictionary<string, FieldType> _byKey;

    /// <summary>An index of types; their keys must differ.</summary>
    public FieldTypes(IEnumerable<FieldType> types)
    {
        All = [.. types];
        _byKey = All.ToImmutableDictionary(t => t.Key, StringComparer.Ordinal);
    }

    /// <summary>All types in the order in which they are offered.</summary>
    public ImmutableArray<FieldType> All { get; }

    /// <summary>The type with a key, or null.</summary>
    public FieldType? Find(string key) => _byKey.GetValueOrDefault(key);
}
