using System.Collections.Immutable;
using System.Net.Mail;

namespace Sexton.Core.Register.Types;

/// <summary>An e-mail address that a message can be sent to: addr-spec of RFC 5322, at most 254 octets (RFC 5321, 4.5.3.1.3), with a dot in its domain.</summary>
public sealed class EmailAddress : FieldType
{
    /// <inheritdoc/>
    public override string Key => "email";

    /// <inheritdoc/>
    public override string Name => "an e-mail address";

    /// <inheritdoc/>
    public override string ShortName => "e-mail";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule();

    private sealed class Rule : TextRule
    {
        public override int LongestText => 254;

        public override ImmutableArray<AnswerValue> Samples => [AnswerValue.Of("name@example.org")];

        protected override Refusal? Check(string text, IOccasion occasion) =>
            text.Length <= LongestText
            && MailAddress.TryCreate(text, out var address)
            && string.Equals(address.Address, text, StringComparison.Ordinal)
            && address.Host.Contains('.', StringComparison.Ordinal)
            && !address.Host.StartsWith('.')
            && !address.Host.EndsWith('.')
            && text.All(static c => c is > ' ' and < '\u007f')
                ? null
                : new Refusal(RefusalCodes.NotEmail);
    }
}
