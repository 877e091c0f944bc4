using MimeKit;
using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Email;

namespace Sexton.Destinations.StaffEmail;

/// <summary>An e-mail to people of the shop: one for each team, of the orders and lines that it is about.</summary>
public sealed class StaffEmailKind(EmailSettings settings, MailConnection connection)
    : EmailKind(
        settings,
        connection,
        new EmailWording("message.staff_subject", "message.staff_heading"),
        new AddressesSetting(To, "to {}", ""),
        new ToggleSetting(Prices, "shows what it costs", "what it costs")
    )
{
    private const string To = "to",
        Prices = "prices";

    private readonly EmailSettings _settings = settings;

    /// <inheritdoc/>
    public override string Key => "staff_email";

    /// <inheritdoc/>
    public override string Name => "To staff";

    /// <inheritdoc/>
    public override string Phrase => "the e-mail to staff";

    /// <inheritdoc/>
    public override Audience Audience => Audience.Staff;

    /// <inheritdoc/>
    public override bool ShowsPrices => true;

    /// <inheritdoc/>
    public override Level Picks => Level.Line;

    /// <inheritdoc/>
    public override string? Lacks(SettingReader settings) => settings.Texts(To).IsEmpty ? "Say to whom it goes." : null;

    /// <inheritdoc/>
    protected internal override bool HasPrices(SettingReader settings) => settings.Is(Prices);

    /// <inheritdoc/>
    protected internal override string LinkTo(SentOrder order) => _settings.LinkForStaff(order.Number);

    /// <inheritdoc/>
    protected internal override IEnumerable<MailboxAddress> RecipientsOf(SentOrder order) =>
        order.To.Settings.Texts(To).Select(static address => new MailboxAddress("", address));
}
