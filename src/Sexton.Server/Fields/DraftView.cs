using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Checks;
using Sexton.Core.Codes;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Register.Settings;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;

namespace Sexton.Server.Fields;

/// <summary>The draft with everything that the map needs.</summary>
/// <param name="Next">The number of the version that it would become.</param>
/// <param name="Unpublished">How many fields, sections and steps differ from the current version.</param>
/// <param name="Fields">The fields.</param>
/// <param name="Sections">The sections.</param>
/// <param name="OwnSteps">The steps of the shop's own.</param>
/// <param name="Steps">All steps where fields are asked, in their order.</param>
/// <param name="Destinations">The destinations where answers go, as they stand on the map.</param>
/// <param name="DestinationKinds">The kinds of destination.</param>
/// <param name="Types">The kinds of answer.</param>
/// <param name="StarterSets">Fields that are mostly wanted together, to begin with.</param>
/// <param name="FieldToggles">What of every field is so or not, and how it is said.</param>
/// <param name="Products">The products; of a large catalogue those that are at hand.</param>
/// <param name="ProductCount">How many products there are.</param>
/// <param name="Categories">The categories.</param>
/// <param name="Tags">The tags of products.</param>
/// <param name="NamedTags">Those of them by which the draft says of which products something is asked.</param>
/// <param name="Groups">The shopper groups.</param>
/// <param name="Countries">The countries delivered to.</param>
/// <param name="AddressParts">The parts of an address, after which a field can stand.</param>
/// <param name="Facts">What conditions can test.</param>
/// <param name="Relations">How facts are compared, by their kind.</param>
/// <param name="Codes">How item codes are put together.</param>
/// <param name="SentencesRevision">The revision of what the shop says in words of its own.</param>
/// <param name="Stock">What is counted.</param>
/// <param name="Money">How amounts are written.</param>
/// <param name="Problems">What is wrong with the draft.</param>
/// <param name="Accepted">What would be wrong, and is meant.</param>
internal sealed record DraftView(
    int Next,
    int Unpublished,
    IReadOnlyList<FieldView> Fields,
    IReadOnlyList<SectionItemView> Sections,
    IReadOnlyList<CustomStepView> OwnSteps,
    IReadOnlyList<NamedKey> Steps,
    IReadOnlyList<DestinationView> Destinations,
    IReadOnlyList<DestinationKindView> DestinationKinds,
    IReadOnlyList<TypeView> Types,
    IReadOnlyList<StarterSetView> StarterSets,
    IReadOnlyList<FieldToggleView> FieldToggles,
    IReadOnlyList<ProductChoice> Products,
    int ProductCount,
    IReadOnlyList<FamilyCount> Categories,
    IReadOnlyList<string> Tags,
    IReadOnlyList<FamilyCount> NamedTags,
    IReadOnlyList<NamedKey> Groups,
    IReadOnlyList<NamedKey> Countries,
    IReadOnlyList<NamedKey> AddressParts,
    IReadOnlyList<FactView> Facts,
    IReadOnlyDictionary<string, IReadOnlyList<RelationView>> Relations,
    CodesView Codes,
    int SentencesRevision,
    IReadOnlyList<StockView> Stock,
    MoneyView Money,
    IReadOnlyList<Problem> Problems,
    IReadOnlyList<AcceptedView> Accepted
);

/// <summary>The rules of item codes of the draft.</summary>
internal sealed record CodesView(int Revision, bool Changed, CodeRules Rules);

/// <summary>Something that is counted.</summary>
/// <param name="Item">Under which code.</param>
/// <param name="OnHand">How many are on the shelf.</param>
/// <param name="Held">How many of them are held by payments under way.</param>
internal sealed record StockView(string Item, long OnHand, long Held);

/// <summary>Counts something anew.</summary>
/// <param name="Item">Under which code.</param>
/// <param name="OnHand">How many are on the shelf; null to count it no longer.</param>
internal sealed record CountRequest(string Item, long? OnHand);

/// <summary>How amounts of money are written.</summary>
/// <param name="Symbol">The symbol of the currency.</param>
/// <param name="Digits">The digits after the point (ISO 4217).</param>
internal sealed record MoneyView(string Symbol, int Digits);

/// <summary>What the answers of a field can do to the price.</summary>
/// <param name="Kinds">The kinds of price, as its level allows them.</param>
/// <param name="By">What of an answer an amount can be taken times.</param>
/// <param name="ByOfChoice">The same of one choice; empty where there are none.</param>
/// <param name="Codes">Whether they can be part of an item code without saying what they contribute.</param>
internal sealed record PricingView(
    IReadOnlyList<PriceKind> Kinds,
    IReadOnlyList<AnswerMeasure> By,
    IReadOnlyList<AnswerMeasure> ByOfChoice,
    bool Codes
);

/// <summary>A key and its name.</summary>
internal sealed record NamedKey(string Key, string Name);

/// <summary>A destination.</summary>
/// <param name="Key">The key.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Phrase">What a sentence calls it.</param>
/// <param name="Family">The key of its family.</param>
/// <param name="Levels">The levels for whose answers it has a place.</param>
/// <param name="ShowsPrices">Whether people read prices there.</param>
/// <param name="TakesItemCodes">Whether it gets item codes.</param>
/// <param name="Files">Whether it takes files.</param>
/// <param name="NamesAnswers">Whether fields and answers can be called otherwise there.</param>
/// <param name="IsDelivered">Whether it is sent, so that it is said which orders it gets, when, and what is done with what does not fit.</param>
/// <param name="CanLeaveOutPrices">Whether prices can be left out there under a condition.</param>
/// <param name="FollowsAnother">Whether it goes only when what was sent elsewhere is taken back, and no order by itself.</param>
/// <param name="TellsEvents">Whether it is told what happens to an order, in place of getting it when it is released.</param>
/// <param name="GoesBy">Whether an order goes there as a whole, or once for each of its lines or units.</param>
/// <param name="Picks">What its condition picks: orders, lines or units.</param>
/// <param name="LongestLineText">The greatest length of an answer of a line or unit; null for no limit.</param>
/// <param name="LongestOrderText">The same of the order.</param>
/// <param name="Characters">What the characters are called that it takes; null for all.</param>
/// <param name="HasNote">Whether it has a note where what is too long can go on.</param>
/// <param name="HasNamedValues">Whether an answer can stand there as a value under its name.</param>
/// <param name="FindsByName">Whether all answers do.</param>
/// <param name="HasCodesOfItsOwn">Whether it calls the items of the shop by codes of its own.</param>
/// <param name="Sentences">Its condition as a sentence, by the path of its setting.</param>
/// <param name="Revision">The revision of it in the draft.</param>
/// <param name="Since">The first version that had it; null where none has.</param>
/// <param name="Changed">Whether it differs from the current version.</param>
/// <param name="Destination">It as plain data.</param>
internal sealed record DestinationView(
    string Key,
    string Name,
    string Phrase,
    string Family,
    IReadOnlyList<Level> Levels,
    bool ShowsPrices,
    bool TakesItemCodes,
    bool Files,
    bool NamesAnswers,
    bool IsDelivered,
    bool CanLeaveOutPrices,
    bool FollowsAnother,
    bool TellsEvents,
    Level GoesBy,
    Level Picks,
    int? LongestLineText,
    int? LongestOrderText,
    string? Characters,
    bool HasNote,
    bool HasNamedValues,
    bool FindsByName,
    bool HasCodesOfItsOwn,
    IReadOnlyDictionary<string, string> Sentences,
    int Revision,
    int? Since,
    bool Changed,
    Destination Destination
)
{
    public static DestinationView Of(
        BoundDestination destination,
        IReadOnlyDictionary<string, string> sentences,
        int revision,
        int? since,
        bool changed
    ) =>
        new(
            destination.Key,
            destination.Name,
            destination.Phrase,
            destination.Kind.Family.Key,
            destination.Capacity.Levels,
            destination.Kind.ShowsPrices,
            destination.Capacity.ItemCodes is not null,
            destination.Capacity.Files,
            destination.Kind.NamesAnswers,
            destination.Kind.IsDelivered,
            destination.Kind.CanLeaveOutPrices,
            destination.Kind.FollowsAnother,
            destination.Kind.TellsEvents,
            destination.GoesBy,
            destination.Picks,
            destination.Longest(Level.Line),
            destination.Longest(Level.Order),
            destination.Capacity.Characters?.Name,
            destination.LongestNote(Level.Line) + destination.LongestNote(Level.Order) > 0,
            destination.Kind.HasNamedValues,
            destination.Kind.FindsByName,
            destination.Kind.HasCodesOfItsOwn(destination.Settings),
            sentences,
            revision,
            since,
            changed,
            destination.Plain
        );
}

/// <summary>A kind of destination.</summary>
/// <param name="Key">The key.</param>
/// <param name="Name">What a destination of it is called at first.</param>
/// <param name="Family">Where it stands on the map.</param>
/// <param name="Ceiling">The best evidence that it can give.</param>
/// <param name="CanBeMade">Whether destinations of it can be made; the others are parts of the application.</param>
/// <param name="Settings">Its settings.</param>
/// <param name="Schema">The JSON Schema of its settings object.</param>
internal sealed record DestinationKindView(
    string Key,
    string Name,
    DestinationFamily Family,
    Evidence Ceiling,
    bool CanBeMade,
    IReadOnlyList<SettingView> Settings,
    JsonObject Schema
)
{
    public static DestinationKindView Of(DestinationKind kind) =>
        new(
            kind.Key,
            kind.Name,
            kind.Family,
            kind.Ceiling,
            !kind.IsBuiltIn,
            [.. kind.Settings.Select(SettingView.Of)],
            SettingsObject.Schema(kind.Settings)
        );
}

/// <summary>A destination where the answers to a field may be longer than it takes, and something was agreed.</summary>
/// <param name="Destination">Its key.</param>
/// <param name="Otherwise">What is done with them.</param>
/// <param name="Takes">How many characters it takes.</param>
internal sealed record TooLongView(string Destination, Otherwise Otherwise, int Takes);

/// <summary>A destination that a field is left out of.</summary>
/// <param name="Destination">Its key.</param>
/// <param name="Why">Why it cannot take the answers, in a sentence.</param>
internal sealed record LeftOutView(string Destination, string Why);

/// <summary>A setting of every field that is so or not, and is drawn as it says.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Says">What the clause says while it is so.</param>
/// <param name="Offer">What is offered while it is not.</param>
/// <param name="Withdraw">What takes it back.</param>
internal sealed record FieldToggleView(string Name, string Says, string Offer, string Withdraw)
{
    public static readonly IReadOnlyList<FieldToggleView> All =
    [
        .. FieldSettings
            .All.Where(static s => s.Toggle is not null)
            .Select(static s => new FieldToggleView(s.Name, s.Toggle!.Says, s.Toggle.Offer, s.Toggle.Withdraw)),
    ];
}

/// <summary>A kind of answer with its settings.</summary>
/// <param name="Key">The key.</param>
/// <param name="Name">What the paragraph calls it.</param>
/// <param name="Line">What it is good for, in a line.</param>
/// <param name="TakesPlaceholder">Whether its empty control can show an example.</param>
/// <param name="AsksNothing">Whether it only says something.</param>
/// <param name="IsWorkedOut">Whether nobody enters its answers.</param>
/// <param name="Settings">The settings.</param>
/// <param name="Schema">The JSON Schema of its settings object.</param>
internal sealed record TypeView(
    string Key,
    string Name,
    string Line,
    bool TakesPlaceholder,
    bool AsksNothing,
    bool IsWorkedOut,
    IReadOnlyList<SettingView> Settings,
    JsonObject Schema
)
{
    public static TypeView Of(FieldType type) =>
        new(
            type.Key,
            type.Name,
            type.Line,
            type.TakesPlaceholder,
            type.AsksNothing,
            type.IsComputed,
            [.. type.Settings.Select(SettingView.Of)],
            type.SettingsSchema
        );
}

/// <summary>A setting of a kind of answer.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Kind">Its kind, which says what control is drawn.</param>
/// <param name="Clause">The sentence, with {} where the value stands.</param>
/// <param name="Offer">What it is called while not set; "" when it is always shown.</param>
/// <param name="Default">The value where none is set, or null.</param>
/// <param name="Options">What can be chosen, where there is a fixed list.</param>
/// <param name="Days">Whether its texts are days.</param>
/// <param name="ForTrials">Whether it says where a destination is tried out.</param>
/// <param name="OfTypes">The kinds of answer of which the field must have one, where it names a field; empty where it names none.</param>
/// <param name="OfFamily">The family of the destinations that it names; null where it names none.</param>
/// <param name="OnlyWith">The name of another setting without which it says nothing; null for none.</param>
/// <param name="SaidBy">The names of other settings that, all of them set, say it already; empty for none.</param>
internal sealed record SettingView(
    string Name,
    string Kind,
    string Clause,
    string Offer,
    JsonElement? Default,
    IReadOnlyList<NamedKey> Options,
    bool Days,
    bool ForTrials,
    IReadOnlyList<string> OfTypes,
    string? OfFamily,
    string? OnlyWith,
    IReadOnlyList<string> SaidBy
)
{
    public static SettingView Of(TypeSetting setting) =>
        new(
            setting.Name,
            setting.Kind,
            setting.Clause,
            setting.Offer,
            setting.Default,
            setting is OptionSetting option ? [.. option.Options.Select(static o => new NamedKey(o.Key, o.Value))] : [],
            setting is TextsSetting { Days: true },
            setting.ForTrials,
            setting is AnswerSetting answer ? answer.Types : [],
            (setting as DestinationsSetting)?.Family,
            setting.OnlyWith,
            setting.SaidBy
        );
}

/// <summary>A product that a field can be asked of.</summary>
/// <param name="Code">Its code.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Categories">The names of the categories in which it stands.</param>
/// <param name="Tags">Its tags.</param>
/// <param name="Variants">Its variants.</param>
/// <param name="UnitName">What one of it is called, or "".</param>
/// <param name="Ships">Whether it is sent.</param>
/// <param name="Picture">The name of its picture, or "".</param>
/// <param name="PictureWords">What the picture shows, or "".</param>
/// <param name="Price">What one costs in the catalogue.</param>
internal sealed record ProductChoice(
    string Code,
    string Name,
    IReadOnlyList<string> Categories,
    IReadOnlyList<string> Tags,
    IReadOnlyList<NamedKey> Variants,
    string UnitName,
    bool Ships,
    string Picture,
    string PictureWords,
    string Price
);

/// <summary>A field of the draft.</summary>
/// <param name="Revision">Its revision, for If-Match.</param>
/// <param name="LiveSince">The first version that had it; null when it was never published.</param>
/// <param name="Changed">Whether it differs from the current version.</param>
/// <param name="Kind">Its kind of answer in short, with its limits: "text, 24".</param>
/// <param name="Optional">Whether it may be made optional.</param>
/// <param name="Asks">The codes of the products at hand that ask it by its scope and that of its section.</param>
/// <param name="AsksCount">How many products ask it.</param>
/// <param name="AsksCategories">The categories of which every product asks it.</param>
/// <param name="AsksTags">The tags that the draft names, of which every product asks it.</param>
/// <param name="Conditional">Whether more than the product decides: a condition, a group, or an opening question.</param>
/// <param name="Sentences">Its conditions as sentences, by the path of their setting.</param>
/// <param name="Pricing">What its answers can do to the price; null where nothing is asked.</param>
/// <param name="LeftOut">Where its answers cannot go, and why.</param>
/// <param name="TooLong">Where they may be too long, and what is done then.</param>
/// <param name="NamedValues">What of its answers can have another word at a destination: its choices, or yes and no.</param>
/// <param name="HoldsDay">Whether its answers hold a day, which can be written in another form there.</param>
/// <param name="Field">The field.</param>
internal sealed record FieldView(
    int Revision,
    int? LiveSince,
    bool Changed,
    string Kind,
    bool Optional,
    IReadOnlyList<string> Asks,
    int AsksCount,
    IReadOnlyList<string> AsksCategories,
    IReadOnlyList<string> AsksTags,
    bool Conditional,
    IReadOnlyDictionary<string, string> Sentences,
    PricingView? Pricing,
    IReadOnlyList<LeftOutView> LeftOut,
    IReadOnlyList<TooLongView> TooLong,
    IReadOnlyList<NamedKey> NamedValues,
    bool HoldsDay,
    Field Field
);

/// <summary>A section of the draft.</summary>
/// <param name="Revision">Its revision, for If-Match.</param>
/// <param name="LiveSince">The first version that had it; null when it was never published.</param>
/// <param name="Changed">Whether it differs from the current version.</param>
/// <param name="Asks">The codes of the products at hand that ask it by its scope.</param>
/// <param name="Sentences">Its condition as a sentence, by the path of its setting.</param>
/// <param name="Section">The section.</param>
internal sealed record SectionItemView(
    int Revision,
    int? LiveSince,
    bool Changed,
    IReadOnlyList<string> Asks,
    IReadOnlyDictionary<string, string> Sentences,
    Section Section
);

/// <summary>A step of the shop's own.</summary>
internal sealed record CustomStepView(int Revision, int? LiveSince, bool Changed, CustomStep Step);

/// <summary>Something that conditions can test.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Kind">What kind of thing it is.</param>
/// <param name="Level">Where it belongs.</param>
/// <param name="Options">What it can be compared with, where there is a list.</param>
/// <param name="Unit">The unit of a number, or "".</param>
internal sealed record FactView(string Key, string Name, string Kind, Level Level, IReadOnlyList<NamedKey> Options, string Unit);

/// <summary>How a fact is compared.</summary>
internal sealed record RelationView(string Key, string Words, bool TakesValue, bool TakesList);

/// <summary>Adds a field.</summary>
/// <param name="Label">The question.</param>
/// <param name="Key">The key.</param>
/// <param name="Type">The key of the kind of answer.</param>
/// <param name="Level">How often it is asked.</param>
/// <param name="AskedOf">Of which products; null for none yet.</param>
/// <param name="Section">The key of the section that it stands in, or null. The section then says how often, of which and where.</param>
/// <param name="Like">The key of a field that it begins as, with all that is set of it, whatever kind, level, products and section are named; null for none.</param>
/// <param name="With">What is set of it from the start, by the path of the setting; null for nothing.</param>
internal sealed record AddFieldRequest(
    string Label,
    string Key,
    string Type,
    Level Level,
    ProductScope? AskedOf = null,
    string? Section = null,
    string? Like = null,
    IReadOnlyDictionary<string, JsonElement>? With = null
);

/// <summary>Puts a starter set into the draft.</summary>
/// <param name="Set">The key of the set.</param>
/// <param name="AskedOf">Of which products its fields are asked, where they are not of the whole order; null for none yet.</param>
internal sealed record AddSetRequest(string Set, ProductScope? AskedOf = null);

/// <summary>A starter set that was put into the draft.</summary>
/// <param name="Key">The key of the section or field that comes first.</param>
internal sealed record AddedSet(string Key);

/// <summary>Fields that are mostly wanted together.</summary>
/// <param name="Key">The key of the set.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Line">What it is good for.</param>
/// <param name="Level">Of what its fields are asked.</param>
/// <param name="Labels">What the shopper is asked: the opening question first, where there is one.</param>
internal sealed record StarterSetView(string Key, string Name, string Line, Level Level, IReadOnlyList<string> Labels)
{
    public static readonly IReadOnlyList<StarterSetView> All =
    [
        .. StarterSets.All.Select(static s => new StarterSetView(
            s.Key,
            s.Name,
            s.Line,
            s.Level,
            [.. s.Fields.Select(static f => f.Label.ToString()).Prepend(s.Section?.Opening.ToString()).OfType<string>()]
        )),
    ];
}

/// <summary>Adds a section.</summary>
internal sealed record AddSectionRequest(string Heading, string Key, Level Level);

/// <summary>Adds a step of the shop's own.</summary>
internal sealed record AddStepRequest(string Name, string Key, string After);

/// <summary>Adds a destination.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Key">The key.</param>
/// <param name="Kind">The key of its kind.</param>
/// <param name="CopyOf">The key of one of the same kind that it begins as, with all that goes there; null for none.</param>
internal sealed record AddDestinationRequest(string Name, string Key, string Kind, string? CopyOf = null);

/// <summary>Changes one setting.</summary>
/// <param name="Setting">The path of the setting; "position" moves it before another of its kind, or to the end for null.</param>
/// <param name="Value">Its new value.</param>
internal sealed record ChangeDraftRequest(string Setting, JsonElement Value);

/// <summary>What was changed: its key and new revision.</summary>
internal sealed record ChangedView(string Key, int Revision);

/// <summary>What was undone.</summary>
internal sealed record UndoneView(string Field, string Setting);

/// <summary>A key proposed for a label.</summary>
internal sealed record ProposedKey(string Key);
