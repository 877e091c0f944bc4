using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Sexton.Core.Codes;
using Sexton.Core.Components;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Register;

/// <summary>One question of the register, as plain data. A plan is what it is compiled to.</summary>
public sealed record Field
{
    /// <summary>The stable key; see <see cref="FieldKey"/>.</summary>
    public required string Key { get; init; }

    /// <summary>The key of the kind of answer; see <see cref="Types.FieldTypes"/>.</summary>
    public required string Type { get; init; }

    /// <summary>How often it is asked.</summary>
    public required Level Level { get; init; }

    /// <summary>The key of the step where it is asked; that of its section when it stands in one.</summary>
    public required string Step { get; init; }

    /// <summary>The key of the section that it stands in, or null.</summary>
    public string? Section { get; init; }

    /// <summary>True for a question that the shop asks by itself: it cannot be removed, nor made optional where the job needs it.</summary>
    public bool BuiltIn { get; init; }

    /// <summary>The question as the shopper reads it.</summary>
    public required LanguageMap Label { get; init; }

    /// <summary>What staff call it; "" for the label.</summary>
    public string StaffLabel { get; init; } = "";

    /// <summary>What staff should know of it; never shown to shoppers.</summary>
    public string StaffNotes { get; init; } = "";

    /// <summary>A sentence of help under the control, or none.</summary>
    public LanguageMap Help { get; init; } = LanguageMap.Empty;

    /// <summary>The example inside the empty control, or none.</summary>
    public LanguageMap Placeholder { get; init; } = LanguageMap.Empty;

    /// <summary>The file name of a picture shown beside the question, or "".</summary>
    public string Picture { get; init; } = "";

    /// <summary>What the picture shows, for those who cannot see it; none where it says nothing more than the question.</summary>
    public LanguageMap PictureWords { get; init; } = LanguageMap.Empty;

    /// <summary>What the control holds before the shopper has touched it, or null. It counts as the answer as long as none is given.</summary>
    public AnswerValue? Default { get; init; }

    /// <summary>Whether the default must be changed: left as it is, it is refused.</summary>
    public bool DefaultMustChange { get; init; }

    /// <summary>Whether it stands in one row with the field before it, where there is room.</summary>
    public bool SharesRow { get; init; }

    /// <summary>The part of an address after which it stands, as <see cref="PlaceInAddress"/> writes it; null where it stands by itself.</summary>
    public string? StandsAfter { get; init; }

    /// <summary>Whether a script of the shop's own page gives the answer, and nobody by hand. It is checked like any other.</summary>
    public bool GivenByPage { get; init; }

    /// <summary>Whether what the page's script gives is not shown on the form; it is checked and goes where its routes say all the same.</summary>
    public bool KeptOffForm { get; init; }

    /// <summary>Whether an answer must be given whenever the field is asked.</summary>
    public bool Required { get; init; }

    /// <summary>When an answer must be given, where it need not always be; null for never.</summary>
    public Condition? RequiredWhen { get; init; }

    /// <summary>When an answer is refused although it is right by itself, such as a second date that is before the first; null for never. It may read the answer itself.</summary>
    public Condition? RefusedWhen { get; init; }

    /// <summary>What the shopper reads then, or none for the usual sentence.</summary>
    public LanguageMap RefusedSaying { get; init; } = LanguageMap.Empty;

    /// <summary>The quick way of saying when it is asked.</summary>
    public ProductScope AskedOf { get; init; } = ProductScope.Every;

    /// <summary>Of each one of a line: the greatest quantity that a line of it takes, from 1; null for as many as its products take.</summary>
    public int? MostEach { get; init; }

    /// <summary>The condition under which it is asked, besides <see cref="AskedOf"/>; null for always.</summary>
    public Condition? When { get; init; }

    /// <summary>The settings of the type, by name; what is not set has the type's own default.</summary>
    public ImmutableSortedDictionary<string, JsonElement> Settings { get; init; } = ImmutableSortedDictionary<string, JsonElement>.Empty;

    /// <summary>What answers cost, or take off.</summary>
    public ImmutableArray<Price> Prices { get; init; } = [];

    /// <summary>How many picks, the cheapest of them, are included in the price; at least 0.</summary>
    public int IncludedPicks { get; init; }

    /// <summary>What its answers contribute to the item code of their line; null for nothing.</summary>
    public FieldCode? Code { get; init; }

    /// <summary>What its answers use up.</summary>
    public ImmutableArray<ComponentUsage> Uses { get; init; } = [];

    /// <summary>
    /// Where what its answers cost is not shown by itself but within the price of the goods: keys of destinations, and <see cref="OnTheForm"/>.
    /// </summary>
    public ImmutableSortedSet<string> PriceWithin { get; init; } = [];

    /// <summary>Whether only staff who need it see the answers.</summary>
    public bool Sensitive { get; init; }

    /// <summary>Whether the answers say something of a person: they go when an order is erased, or its time is over.</summary>
    public bool Personal { get; init; }

    /// <summary>Switched off: asked of nobody until it is switched on again.</summary>
    public bool SwitchedOff { get; init; }

    /// <summary>Retired: never asked again, and kept so that the answers of old orders can be read.</summary>
    public bool Retired { get; init; }

    /// <summary>The keys of the destinations that it goes to; see <see cref="Routing.Destination"/>.</summary>
    public ImmutableSortedSet<string> GoesTo { get; init; } = [];

    /// <summary>The destinations that could not take its answers when it was to go there: it goes as soon as they can, and nobody chose otherwise. See <see cref="Routes"/>.</summary>
    public ImmutableSortedSet<string> LeftOut { get; init; } = [];

    /// <summary>The conditions under which it goes to some of them, by destination.</summary>
    public ImmutableSortedDictionary<string, Condition> GoesToWhen { get; init; } = ImmutableSortedDictionary<string, Condition>.Empty;

    /// <summary>Whom its answers are about.</summary>
    [JsonIgnore]
    public Privacy Privacy =>
        Sensitive || (BuiltIn && Personal) ? Privacy.ShoppersOwn
        : Personal ? Privacy.Personal
        : Privacy.Open;

    /// <summary>In <see cref="PriceWithin"/>: the form on which it is asked.</summary>
    public const string OnTheForm = "form";

    /// <summary>What staff call it.</summary>
    [JsonIgnore]
    public string NameForStaff => StaffLabel.Length > 0 ? StaffLabel : Label.ToString();
}

/// <summary>Fields shown together under one heading, asked or not as one.</summary>
public sealed record Section
{
    /// <summary>The stable key; keys of fields, sections, steps and destinations never meet. The answer to the opening question is stored under it.</summary>
    public required string Key { get; init; }

    /// <summary>How often its fields are asked.</summary>
    public required Level Level { get; init; }

    /// <summary>The key of the step where its fields are asked.</summary>
    public required string Step { get; init; }

    /// <summary>The heading as the shopper reads it.</summary>
    public required LanguageMap Heading { get; init; }

    /// <summary>Words under the heading, or none.</summary>
    public LanguageMap Text { get; init; } = LanguageMap.Empty;

    /// <summary>The opening question, answered with yes or no; empty for none. While it is not "yes", nothing in the section is asked.</summary>
    public LanguageMap Opening { get; init; } = LanguageMap.Empty;

    /// <summary>The quick way of saying when it is asked.</summary>
    public ProductScope AskedOf { get; init; } = ProductScope.Every;

    /// <summary>The condition under which it is asked; null for always.</summary>
    public Condition? When { get; init; }

    /// <summary>The destinations that the answer to the opening question goes to.</summary>
    public ImmutableSortedSet<string> GoesTo { get; init; } = [];

    /// <summary>The conditions under which it goes to some of them, by destination.</summary>
    public ImmutableSortedDictionary<string, Condition> GoesToWhen { get; init; } = ImmutableSortedDictionary<string, Condition>.Empty;

    /// <summary>Retired: nothing in it is asked again, and it is kept so that the answers of old orders can be read.</summary>
    public bool Retired { get; init; }
}

/// <summary>
/// All fields, sections, own steps and destinations of the shop, in the order in which they are asked: a draft, or the content of a published version.
/// A section stands where the first of its fields stands.
/// </summary>
/// <param name="Fields">The fields.</param>
public sealed record RegisterContent(ImmutableArray<Field> Fields)
{
    /// <summary>The sections.</summary>
    public ImmutableArray<Section> Sections { get; init; } = [];

    /// <summary>What the shop says instead of the sentences that are shipped.</summary>
    public OwnSentences Wording { get; init; } = OwnSentences.None;

    /// <summary>How item codes are put together.</summary>
    public CodeRules Codes { get; init; } = CodeRules.None;

    /// <summary>The destinations.</summary>
    public ImmutableArray<Destination> Destinations { get; init; } = [];

    /// <summary>The steps that the manager put on the way.</summary>
    public ImmutableArray<CustomStep> Steps { get; init; } = [];

    /// <summary>All steps on the way, the manager's own after the step that they follow.</summary>
    public ImmutableArray<Step> AllSteps() =>
        [
            .. Facts.Step.Standard.SelectMany(s =>
                Steps.Where(own => own.After == s.Key).Select(static own => new Step(own.Key, own.Name, Own: true)).Prepend(s)
            ),
        ];

    /// <summary>The field with a key, or null.</summary>
    public Field? Find(string key) => Fields.FirstOrDefault(f => string.Equals(f.Key, key, StringComparison.Ordinal));

    /// <summary>The section with a key, or null.</summary>
    public Section? FindSection(string? key) => Sections.FirstOrDefault(s => string.Equals(s.Key, key, StringComparison.Ordinal));
}
