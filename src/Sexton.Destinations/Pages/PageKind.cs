using System.Collections.Immutable;
using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;

namespace Sexton.Destinations.Pages;

/// <summary>A page of the application: it is served, and the best that can be said of an answer is that it was shown.</summary>
public sealed class PageKind : DestinationKind
{
    private PageKind(string key, string name, string phrase, Audience audience, params ImmutableArray<Level> levels) =>
        (Key, Name, Phrase, Audience, Levels) = (key, name, phrase, audience, levels);

    /// <summary>The line in the shopper's cart.</summary>
    public static readonly PageKind CartLine = new("cart_line", "Cart line", "the cart line", Audience.Shopper, Level.Line, Level.Unit);

    /// <summary>The shopper's page after the order, and later by the link in the e-mail.</summary>
    public static readonly PageKind Confirmation = new(
        "confirmation",
        "Confirmation",
        "the confirmation",
        Audience.Shopper,
        Enum.GetValues<Level>().ToImmutableArray()
    );

    /// <summary>The shopper's own account, with the orders placed while signed in.</summary>
    public static readonly PageKind Account = new(
        "account",
        "Account",
        "the shopper’s account",
        Audience.Shopper,
        Enum.GetValues<Level>().ToImmutableArray()
    );

    /// <summary>The page of the order that staff open.</summary>
    public static readonly PageKind OrderPage = new(
        "order_page",
        "Order page",
        "the order page",
        Audience.Staff,
        Enum.GetValues<Level>().ToImmutableArray()
    );

    /// <inheritdoc/>
    public override string Key { get; }

    /// <inheritdoc/>
    public override string Name { get; }

    /// <inheritdoc/>
    public override string Phrase { get; }

    /// <inheritdoc/>
    public override Audience Audience { get; }

    /// <inheritdoc/>
    public override DestinationFamily Family => Families.Pages;

    /// <inheritdoc/>
    public override Evidence Ceiling => Evidence.Shown;

    /// <inheritdoc/>
    public override bool IsDelivered => false;

    /// <inheritdoc/>
    public override bool ShowsPrices => true;

    /// <inheritdoc/>
    public override bool IsBuiltIn => true;

    /// <inheritdoc/>
    public override bool IsThereAtFirst => true;

    private ImmutableArray<Level> Levels { get; }

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => new() { Levels = Levels };
}
