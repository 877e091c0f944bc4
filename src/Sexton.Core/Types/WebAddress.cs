using System.Collections.Immutable;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// The address of a page (RFC 3986) that a browser opens by itself: http or https, a host with a dot, no name and password in it. Where no
/// scheme was typed, https is put before it.
/// </summary>
public sealed class WebAddress : FieldType
{
    private const int Longest = 500;

    /// <inheritdoc/>
    public override string Key => "web_address";

    /// <inheritdoc/>
    public override string Name => "a web address";

    /// <inheritdoc/>
    public override string ShortName => "web address";

    /// <inheritdoc/>
    public override string Line => "a page on the web";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule();

    private sealed class Rule : TextRule
    {
        private static readonly Refusal NotWebAddress = new("not_web_address");

        public override int LongestText => Longest;

        public override ImmutableArray<AnswerValue> Samples => [AnswerValue.Of("https://example.org/a?b=c")];

        protected override string Complete(string text) => text.Contains(':', StringComparison.Ordinal) ? text : "https://" + text;

        protected override Refusal? Check(string text, IAnswerContext context) =>
            Graphemes.FitIn(text, Longest)
            && !text.Any(static c => char.IsWhiteSpace(c) || c is '<' or '>' or '"')
            && Uri.TryCreate(text, UriKind.Absolute, out var address)
            && (address.Scheme == Uri.UriSchemeHttps || address.Scheme == Uri.UriSchemeHttp)
            && address.UserInfo.Length == 0
            && address.HostNameType == UriHostNameType.Dns
            && address.IdnHost.Trim('.').Contains('.', StringComparison.Ordinal)
                ? null
                : NotWebAddress;
    }
}
