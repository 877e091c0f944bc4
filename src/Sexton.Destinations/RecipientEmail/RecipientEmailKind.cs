using MimeKit;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Email;

namespace Sexton.Destinations.RecipientEmail;

/// <summary>
/// An e-mail to whoever an answer names: the card's recipient, or each seat's own guest. It never shows prices, nor what is about the shopper or about another guest.
/// </summary>
public sealed class RecipientEmailKind(EmailSettings settings, MailConnection connection)
    : EmailKind(
        settings,
        connection,
        new EmailWording("message.recipient_subject", "message.recipient_heading"),
        new AnswerSetting(To, "to the address in {}", "", EmailAddress.TypeKey)
    )
{
    private const string To = "to";

    /// <inheritdoc/>
    public override string Key => "recipient_email";

    /// <inheritdoc/>
    public override string Name => "To a recipient";

    /// <inheritdoc/>
    public override string Phrase => "the e-mail to a recipient";

    /// <inheritdoc/>
    public override Audience Audience => Audience.Recipient;

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => new() { Files = false };

    /// <inheritdoc/>
    public override string OneForEach(SettingReader settings) => settings.Text(To) ?? "";

    /// <inheritdoc/>
    protected internal override bool HasPrices(SettingReader settings) => false;

    /// <inheritdoc/>
    protected internal override string? LinkTo(SentOrder order) => null;

    /// <inheritdoc/>
    protected internal override IEnumerable<MailboxAddress> RecipientsOf(SentOrder order) =>
        order
            .Content.Answers.Where(a => a.Field == order.To.OneForEach && a.Value is not null && order.Part.Has(a.LineId, a.UnitId))
            .Select(static a => new MailboxAddress("", a.Text));
}
