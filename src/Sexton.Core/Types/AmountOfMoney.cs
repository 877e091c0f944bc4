using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// An amount of money in the currency of the shop, of no more decimals than that has (ISO 4217). Kept as an exact number of whole units,
/// without trailing zeros.
/// </summary>
/// <param name="currency">The currency of the shop (ISO 4217).</param>
public sealed class AmountOfMoney(string currency) : FieldType
{
    private const string Least = "least",
        Most = "most",
        StepSize = "step";

    // What nobody enters by hand; a limit of one's own is lower.
    private const decimal Bound = 10_000_000m;

    /// <inheritdoc/>
    public override string Key => "amount_of_money";

    /// <inheritdoc/>
    public override string Name => "an amount of money";

    /// <inheritdoc/>
    public override string ShortName => "amount";

    /// <inheritdoc/>
    public override string Line => "an amount of their choice, such as a credit";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new DecimalSetting(Least, "at least {}", "a least amount"),
        new DecimalSetting(Most, "at most {}", "a greatest amount"),
        new DecimalSetting(StepSize, "in steps of {}", "steps") { Positive = true },
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(currency, settings.Number(Least) ?? 0, settings.Number(Most) ?? Bound, settings.Number(StepSize));

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings)
    {
        foreach (var name in new[] { Least, Most, StepSize })
        {
            if (settings.Number(name) is { } amount && decimal.Round(amount, MoneyText.ExponentOf(currency)) != amount)
            {
                yield return new SettingProblem(
                    name,
                    $"{currency} has {MoneyText.ExponentOf(currency)} digits after the point. Round the amount."
                );
            }
        }

        if (settings.Number(Least) > settings.Number(Most))
        {
            yield return new SettingProblem(Least, "The least amount is greater than the greatest. Make one of them fit.");
        }
    }

    private sealed class Rule(string currency, decimal least, decimal most, decimal? step) : AnswerRule
    {
        private static readonly Refusal NotAmount = new("not_amount");

        private readonly Func<decimal, string, string> _write = (amount, language) => Write(amount, currency, language);
        private readonly NumberLimits _limits = new(
            least,
            most,
            step,
            MoneyText.ExponentOf(currency),
            (limit, language) => Write(limit, currency, language)
        );

        public override int LongestText => new[] { least, most }.Max(amount => Write(amount, currency, LanguageMap.Fallback).Length);

        public override string Unit => MoneyText.SymbolOf(currency);

        public override FactKind Fact => FactKind.Number;

        public override decimal? LeastNumber => least;

        public override ImmutableArray<AnswerMeasure> PricedBy => [AnswerMeasure.Answer, AnswerMeasure.Amount];

        public override JsonObject Schema =>
            new()
            {
                ["type"] = "number",
                ["minimum"] = least,
                ["maximum"] = most,
            };

        public override ImmutableArray<AnswerValue> Samples => _limits.Samples;

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            // The sign and the code of the currency may stand on either side; another currency is no amount here.
            var bare = raw.Text is { } text ? AnswerValue.Of(Bare(text)) : raw;
            return !ExactNumber.TryRead(bare, context.Language, MoneyText.ExponentOf(currency), _write, out var amount, out var twice)
                    ? Reading.Refused(twice ?? NotAmount)
                : _limits.Check(amount, context.Language) is { } refusal ? Reading.Refused(refusal)
                : Reading.Of(ExactNumber.Canonical(raw, amount));
        }

        public override string TextOf(AnswerValue value, string language) => Write(value.Number!.Value, currency, language);

        public override string SystemTextOf(AnswerValue value, string language) => MoneyText.Plain(value.Number!.Value, currency);

        private static string Write(decimal amount, string currency, string language) =>
            MoneyText.Format((long)(amount * MoneyText.UnitOf(currency)), currency, language);

        private string Bare(string text)
        {
            var plain = text.Trim();
            foreach (var mark in new[] { MoneyText.SymbolOf(currency), currency })
            {
                if (plain.StartsWith(mark, StringComparison.OrdinalIgnoreCase))
                {
                    return plain[mark.Length..];
                }

                if (plain.EndsWith(mark, StringComparison.OrdinalIgnoreCase))
                {
                    return plain[..^mark.Length];
                }
            }

            return plain;
        }
    }
}
