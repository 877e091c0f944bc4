using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Codes;
using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;

namespace Sexton.Core.Tests;

/// <summary>Kinds of destination for the tests of the core, which knows none itself: two pages, one for staff, a message, and a system with limits.</summary>
internal sealed class TestKind(string key, string name, string phrase, DestinationFamily family, Audience audience, Evidence ceiling)
    : DestinationKind
{
    private static readonly DestinationFamily Pages = new("pages", "Pages"),
        Messages = new("messages", "Messages"),
        Systems = new("systems", "Systems");

    public static readonly DestinationKinds All = new([
        Page("cart_line", "Cart line", "the cart line", Audience.Shopper, Level.Line, Level.Unit),
        Page("confirmation", "Confirmation", "the confirmation", Audience.Shopper, Level.Order, Level.Line, Level.Unit),
        Page("account", "Account", "the shopper’s account", Audience.Shopper, Level.Order, Level.Line, Level.Unit),
        Page("order_page", "Order page", "the order page", Audience.Staff, Level.Order, Level.Line, Level.Unit),
        new TestKind("shopper_email", "To the shopper", "the shopper’s e-mail", Messages, Audience.Shopper, Evidence.Included)
        {
            Delivered = true,
            Prices = true,
        },
        new TestKind("back_office", "Back office", "the back office", Systems, Audience.Program, Evidence.Confirmed)
        {
            Delivered = true,
            Limits = static longest => new Capacity
            {
                LongestLineText = longest ?? 60,
                LongestOrderText = 300,
                ItemCodes = new ItemCodeLimits(30, ".-/"),
            },
        },
        new TestKind("drop", "Drop", "the drop", Systems, Audience.Program, Evidence.Included)
        {
            Delivered = true,
            AtFirst = false,
            Limits = static longest => new Capacity
            {
                LongestLineText = longest,
                Files = false,
                Characters = new CharacterSet("the characters of ASCII", static rune => rune.IsAscii),
            },
        },
        new TestKind("by_line", "By line", "the bench", Systems, Audience.Program, Evidence.Confirmed)
        {
            Delivered = true,
            AtFirst = false,
            By = Level.Line,
        },
        new TestKind("by_order_in_lines", "By order", "the team", Messages, Audience.Staff, Evidence.Included)
        {
            Delivered = true,
            AtFirst = false,
            PicksLines = true,
        },
        new TestKind("by_answer", "By answer", "the guests", Messages, Audience.Shopper, Evidence.Included)
        {
            Delivered = true,
            AtFirst = false,
            IsAddressed = true,
        },
        new TestKind("maker", "Maker", "the maker", Systems, Audience.Program, Evidence.Confirmed)
        {
            Delivered = true,
            AtFirst = false,
            By = Level.Line,
            IsMaker = true,
        },
        new TestKind("house", "House", "the house", Systems, Audience.Staff, Evidence.Shown)
        {
            AtFirst = false,
            PicksLines = true,
            IsMaker = true,
        },
        new TestKind("narrow", "Narrow one", "the narrow one", Systems, Audience.Program, Evidence.Confirmed)
        {
            Delivered = true,
            AtFirst = false,
            Limits = static _ => new Capacity
            {
                LongestLineText = 8,
                LongestOrderText = 8,
                LongestLineNote = 20,
            },
        },
    ]);

    public override string Key => key;

    public override string Name => name;

    public override string Phrase => phrase;

    public override DestinationFamily Family => family;

    public override Audience Audience => audience;

    public override Evidence Ceiling => ceiling;

    public override bool IsDelivered => Delivered;

    public override bool ShowsPrices => Prices;

    public override bool IsBuiltIn => !Delivered && !IsMaker;

    public override bool Makes => IsMaker;

    public override bool FindsByName => IsMaker && Delivered;

    public override bool OnlyByHand(SettingReader settings) => settings.Text("to") == "by hand";

    public override bool IsThereAtFirst => AtFirst;

    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new WholeNumberSetting("longest", "takes {} characters about a line", "a limit", 1, 1000)
        {
            Default = key == "drop" ? JsonSerializer.SerializeToElement(100) : null,
        },
        new TextSetting("to", "to whom {} names", "", 40),
    ];

    public override Level GoesBy => By;

    public override Level Picks => PicksLines ? Level.Line : By;

    private bool Delivered { get; init; }

    private Level By { get; init; }

    private bool PicksLines { get; init; }

    private bool IsAddressed { get; init; }

    private bool IsMaker { get; init; }

    private bool Prices { get; init; }

    private bool AtFirst { get; init; } = true;

    private Func<int?, Capacity> Limits { get; init; } = static _ => new Capacity();

    public override string? OneForEach(SettingReader settings) => IsAddressed ? settings.Text("to") ?? "" : null;

    public override Capacity CapacityOf(SettingReader settings) => Limits(settings.Whole("longest"));

    private static TestKind Page(string key, string name, string phrase, Audience audience, params ImmutableArray<Level> levels) =>
        new(key, name, phrase, Pages, audience, Evidence.Shown) { Prices = true, Limits = _ => new Capacity { Levels = levels } };
}
