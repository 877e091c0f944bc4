using System.Collections.Immutable;

namespace Sexton.Core.Types;

/// <summary>The index of all kinds of answer.</summary>
public sealed class FieldTypes
{
    /// <summary>The kinds of answer that Sexton has, for a shop that sells in euro.</summary>
    public static readonly FieldTypes Standard = In("EUR");

    private readonly ImmutableDictionary<string, FieldType> _byKey;

    /// <summary>An index of types; their keys must differ.</summary>
    public FieldTypes(IEnumerable<FieldType> types)
    {
        All = [.. types];
        _byKey = All.ToImmutableDictionary(t => t.Key, StringComparer.Ordinal);
    }

    /// <summary>The kinds of answer that Sexton has.</summary>
    /// <param name="currency">The currency of the shop (ISO 4217).</param>
    public static FieldTypes In(string currency) =>
        new([
            new LineText(),
            new LongText(),
            new NumberWithUnit(),
            new AmountOfMoney(currency),
            new CalendarDay(),
            new TimeSlot(),
            new YesOrNo(),
            new AgreedTo(),
            new OneOf(),
            new SeveralOf(),
            new HowManyOfEach(),
            new PersonName(),
            new EmailAddress(),
            new Telephone(),
            new WebAddress(),
            new PostalAddress(),
            new Country(),
            new TaxNumber(),
            new FileUpload(),
            new PictureUpload(),
            new Computed(),
            new WordsOnly(),
        ]);

    /// <summary>All types in the order in which they are offered.</summary>
    public ImmutableArray<FieldType> All { get; }

    /// <summary>The type with a key, or null.</summary>
    public FieldType? Find(string key) => _byKey.GetValueOrDefault(key);
}
