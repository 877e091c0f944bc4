using System.Collections.Immutable;
using System.Net.Mail;
using System.Text.RegularExpressions;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// An e-mail address that a message can be sent to: a Dot-string and a domain of RFC 5321, 4.1.2, at most 64 and 254 octets long
/// (4.5.3.1), with a dot in its domain. Quoted names and address literals are mail for machines, and refused.
/// </summary>
public sealed partial class EmailAddress : FieldType
{
    /// <summary>The key of the type.</summary>
    public const string TypeKey = "email";

    private const string Domains = "domains";
    private const int Longest = 254;

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "an e-mail address";

    /// <inheritdoc/>
    public override string ShortName => "e-mail";

    /// <inheritdoc/>
    public override string Line => "where mail reaches somebody";

    /// <inheritdoc/>
    public override bool IsPersonal => true;

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } = [new TextsSetting(Domains, "only at {}", "named domains")];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule(settings.Texts(Domains));

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) =>
        settings
            .Texts(Domains)
            .Where(static d => !Domain().IsMatch(d))
            .Select(static d => new SettingProblem(Domains, $"“{d}” is not a domain. Give what stands behind the @, such as example.org."));

    /// <summary>Whether a message can be sent to an address.</summary>
    public static bool IsGood(string text)
    {
        var at = text.LastIndexOf('@');
        return at is >= 1 and <= 64
            && text.Length <= Longest
            && Domain().IsMatch(text.AsSpan(at + 1))
            && text[0] is not ('.' or '"')
            && text[at - 1] is not '.'
            && !text.Contains("..", StringComparison.Ordinal)
            && text.All(static c => c is > ' ' and < '\u007f')
            && MailAddress.TryCreate(text, out var address)
            && string.Equals(address.Address, text, StringComparison.Ordinal);
    }

    // Labels of letters, digits and hyphens, at most 63 of them (RFC 5321, 4.1.2; RFC 1034, 3.1), and two labels at least.
    [GeneratedRegex(
        @"\A([A-Za-z0-9]([A-Za-z0-9-]{0,61}[A-Za-z0-9])?\.)+[A-Za-z0-9]([A-Za-z0-9-]{0,61}[A-Za-z0-9])?\z",
        RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Domain();

    private sealed class Rule(ImmutableArray<string> domains) : TextRule
    {
        private readonly Refusal _otherDomain = new("other_domain", string.Join(", ", domains));

        public override int LongestText => Longest;

        public override ImmutableArray<AnswerValue> Samples => [AnswerValue.Of("name@" + (domains.IsEmpty ? "example.org" : domains[0]))];

        protected override Refusal? Check(string text, IAnswerContext context)
        {
            if (!IsGood(text))
            {
                return new Refusal(RefusalKeys.NotEmail);
            }

            return domains.IsEmpty || domains.Contains(text[(text.LastIndexOf('@') + 1)..], StringComparer.OrdinalIgnoreCase)
                ? null
                : _otherDomain;
        }
    }
}
