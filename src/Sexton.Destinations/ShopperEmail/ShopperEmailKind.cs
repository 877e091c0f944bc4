using MimeKit;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Email;

namespace Sexton.Destinations.ShopperEmail;

/// <summary>The e-mail to the shopper: what was ordered, what was answered, and what it comes to.</summary>
public sealed class ShopperEmailKind(EmailSettings settings, MailConnection connection)
    : EmailKind(
        settings,
        connection,
        new EmailWording("message.order_subject", "message.order_heading", "message.order_sentences"),
        new ToggleSetting(WithoutPrices, "leaves out what it costs", "that it leaves out what it costs")
    )
{
    private const string WithoutPrices = "without_prices";

    private readonly EmailSettings _settings = settings;

    /// <inheritdoc/>
    public override string Key => "shopper_email";

    /// <inheritdoc/>
    public override string Name => "To the shopper";

    /// <inheritdoc/>
    public override string Phrase => "the shopper’s e-mail";

    /// <inheritdoc/>
    public override Audience Audience => Audience.Shopper;

    /// <inheritdoc/>
    public override bool ShowsPrices => true;

    /// <inheritdoc/>
    public override bool IsThereAtFirst => true;

    /// <inheritdoc/>
    protected internal override bool HasPrices(SettingReader settings) => !settings.Is(WithoutPrices);

    /// <inheritdoc/>
    protected internal override string LinkTo(SentOrder order) => _settings.LinkTo(order.Id);

    /// <inheritdoc/>
    protected internal override IEnumerable<MailboxAddress> RecipientsOf(SentOrder order) =>
        [new(order.Content.TextOf(BuiltInFields.Name), order.Content.TextOf(BuiltInFields.Email))];
}
