using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;

namespace Sexton.Destinations.ParcelCard;

/// <summary>The card in the parcel, for whoever unpacks it: one for each answer that says what stands on it, and none where nothing was said.</summary>
public sealed class ParcelCardKind(PaperSettings settings, IPaperPrinter printer)
    : PaperKind(
        settings,
        printer,
        new PaperWording(),
        Sheet.Settings("a6", lying: true),
        new AnswerSetting(Says, "says what was answered to {}, as large as it fits", "", LongText.TypeKey, LineText.TypeKey),
        new AnswerSetting(From, "with the answer to {} under it", "from whom it is", LineText.TypeKey, PersonName.TypeKey)
    )
{
    private const string Says = "says",
        From = "from";

    /// <inheritdoc/>
    public override string Key => "parcel_card";

    /// <inheritdoc/>
    public override string Name => "Card in the parcel";

    /// <inheritdoc/>
    public override string Phrase => "the card in the parcel";

    /// <inheritdoc/>
    public override Audience Audience => Audience.Recipient;

    /// <inheritdoc/>
    public override bool GoesWithTheParcel => true;

    /// <inheritdoc/>
    public override string OneForEach(SettingReader settings) => settings.Text(Says) ?? "";

    /// <inheritdoc/>
    protected override string Template => "ParcelCard.card.hbs";

    /// <inheritdoc/>
    internal override PaperExtras ExtrasOf(SentOrder order) =>
        new() { Large = order.To.OneForEach, Foot = order.To.Settings.Text(From) is { } from ? [from] : [] };
}
