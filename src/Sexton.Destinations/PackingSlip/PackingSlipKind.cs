using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;

namespace Sexton.Destinations.PackingSlip;

/// <summary>The packing slip: one an order, with the lines that are sent, and at its foot what the card says, to be cut off.</summary>
public sealed class PackingSlipKind(PaperSettings settings, IPaperPrinter printer)
    : PaperKind(
        settings,
        printer,
        new PaperWording("paper.slip_heading"),
        Sheet.Settings("a4"),
        new ToggleSetting(Codes, "with item codes", "item codes"),
        new ToggleSetting(Prices, "with prices", "prices"),
        new AnswerSetting(
            Card,
            "has the answer to {} at its foot, to be cut off",
            "a card to be cut off",
            LongText.TypeKey,
            LineText.TypeKey
        ),
        new AnswerSetting(From, "with the answer to {} under it", "from whom the card is", LineText.TypeKey, PersonName.TypeKey)
    )
{
    private const string Codes = "codes",
        Prices = "prices",
        Card = "card",
        From = "card_from";

    /// <inheritdoc/>
    public override string Key => "packing_slip";

    /// <inheritdoc/>
    public override string Name => "Packing slip";

    /// <inheritdoc/>
    public override string Phrase => "the packing slip";

    /// <inheritdoc/>
    public override Audience Audience => Audience.Shopper;

    /// <inheritdoc/>
    public override bool ShowsPrices => true;

    /// <inheritdoc/>
    public override Level Picks => Level.Line;

    /// <inheritdoc/>
    public override bool GoesWithTheParcel => true;

    /// <inheritdoc/>
    protected override string Template => "PackingSlip.slip.hbs";

    /// <inheritdoc/>
    internal override PaperExtras ExtrasOf(SentOrder order)
    {
        var said = order.To.Settings;
        return new()
        {
            Codes = said.Is(Codes),
            Prices = said.Is(Prices),
            Foot = [.. new[] { said.Text(Card), said.Text(From) }.OfType<string>()],
        };
    }
}
