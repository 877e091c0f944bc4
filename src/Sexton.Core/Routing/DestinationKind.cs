using System.Collections.Immutable;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;

namespace Sexton.Core.Routing;

/// <summary>
/// A kind of destination, as far as rules need to know it. What it does with an order (rendering, sending, reading back) is beside its declaration, outside the core.
/// </summary>
public abstract class DestinationKind
{
    /// <summary>The stable key.</summary>
    public abstract string Key { get; }

    /// <summary>What a destination of it is called at first.</summary>
    public abstract string Name { get; }

    /// <summary>What a sentence calls a destination that bears this name: "the cart line".</summary>
    public abstract string Phrase { get; }

    /// <summary>Where it stands on the map.</summary>
    public abstract DestinationFamily Family { get; }

    /// <summary>Who reads there.</summary>
    public abstract Audience Audience { get; }

    /// <summary>The best evidence that it can give.</summary>
    public abstract Evidence Ceiling { get; }

    /// <summary>Whether it is sent, with a lane to follow; a page is served instead.</summary>
    public abstract bool IsDelivered { get; }

    /// <summary>Whether people read there what things cost, row by row.</summary>
    public virtual bool ShowsPrices => false;

    /// <summary>Whether prices can be left out there under a condition.</summary>
    public virtual bool CanLeaveOutPrices => ShowsPrices;

    /// <summary>Whether it goes with the parcel: it gets the lines that are sent, and waits for none of the others.</summary>
    public virtual bool GoesWithTheParcel => false;

    /// <summary>The language (BCP 47) in which it is written; null for that of the order.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual string? LanguageIn(SettingReader settings) => null;

    /// <summary>What a new destination of it does with answers that do not fit.</summary>
    public virtual Otherwise OtherwiseAtFirst => Otherwise.Refuse;

    /// <summary>Whether fields and answers can be called otherwise there; on pages of the shop they stand as the shopper gave them.</summary>
    public virtual bool NamesAnswers => IsDelivered;

    /// <summary>Whether a newer payload replaces one that was not sent, since each says all there is (a state); false where each is sent in its turn (events).</summary>
    public virtual bool ReplacesUnsent => true;

    /// <summary>Whether it is told what happens to an order, one event after another, in place of getting it when it is released.</summary>
    public virtual bool TellsEvents => false;

    /// <summary>The events that it is told, where it is told any.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual ImmutableArray<OrderEvent> EventsIn(SettingReader settings) => [];

    /// <summary>The hour at which all that is to go there goes as one, each day where the shop is; null where each goes by itself.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual int? GathersAt(SettingReader settings) => null;

    /// <summary>Whether no order goes there by itself, but only once something that was sent elsewhere is taken back.</summary>
    public virtual bool FollowsAnother => false;

    /// <summary>Whether an order goes there as a whole, or once for each of its lines or units.</summary>
    public virtual Level GoesBy => Level.Order;

    /// <summary>What its condition picks: whole orders, or the lines or units that it gets of them.</summary>
    public virtual Level Picks => GoesBy;

    /// <summary>The key of the field for each answer of which one goes there: whom an e-mail goes to, what a card says. Null where it goes whatever is answered.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual string? OneForEach(SettingReader settings) => null;

    /// <summary>Whether a line goes to one of the destinations of such kinds and no other, since it makes what the line is about.</summary>
    public virtual bool Makes => false;

    /// <summary>Whether it gets only the lines that somebody gives to it.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual bool OnlyByHand(SettingReader settings) => false;

    /// <summary>Whether the other side has item codes of its own, which a table says.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual bool HasCodesOfItsOwn(SettingReader settings) => false;

    /// <summary>Whether a program finds all answers by their names, so that no two may stand under the same.</summary>
    public virtual bool FindsByName => false;

    /// <summary>Whether an answer can stand there as a value under its name, where a line of text is usual.</summary>
    public virtual bool HasNamedValues => false;

    /// <summary>The keys of the connections that its settings name.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public IEnumerable<string> ConnectionsIn(SettingReader settings) =>
        Settings.OfType<ConnectionSetting>().Select(s => settings.Text(s.Name)).OfType<string>();

    /// <summary>Whether what is made for it can go with something that is sent elsewhere: it is a paper.</summary>
    public virtual bool CanBeCarried => false;

    /// <summary>The keys of the papers that go with what is sent there.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual ImmutableArray<string> CarriesIn(SettingReader settings) => [];

    /// <summary>Whether there is always exactly one destination of it, since it is a part of the application itself.</summary>
    public virtual bool IsBuiltIn => false;

    /// <summary>Whether a new shop begins with a destination of it, to which new fields go by themselves.</summary>
    public virtual bool IsThereAtFirst => false;

    /// <summary>The settings of its destinations; empty when it has none.</summary>
    public virtual ImmutableArray<TypeSetting> Settings => [];

    /// <summary>What must be set before anything can go there, in a sentence; null where nothing lacks.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual string? Lacks(SettingReader settings) => null;

    /// <summary>The places in its settings where something of the order stands, by name: one of its own, or the key of a field.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public virtual IEnumerable<NamedPlace> PlacesIn(SettingReader settings) => [];

    /// <summary>The names of places that are no fields.</summary>
    public virtual ImmutableArray<string> OwnPlaces => [];

    /// <summary>What a destination takes.</summary>
    /// <param name="settings">Its settings, already found valid.</param>
    public abstract Capacity CapacityOf(SettingReader settings);
}

/// <summary>A place in a setting where something of the order stands.</summary>
/// <param name="Setting">The name of the setting.</param>
/// <param name="Name">What stands there: one of the kind's own names, or the key of a field.</param>
public sealed record NamedPlace(string Setting, string Name);
