using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>An exact decimal number, with a unit or without. Entered with a point or a comma, kept without trailing zeros.</summary>
public sealed class NumberWithUnit : FieldType
{
    private const string Least = "least",
        Most = "most",
        StepSize = "step",
        Decimals = "decimals",
        Unit = "unit";

    /// <inheritdoc/>
    public override string Key => "number";

    /// <inheritdoc/>
    public override string Name => "a number";

    /// <inheritdoc/>
    public override string ShortName => "number";

    /// <inheritdoc/>
    public override string Line => "a number, with its unit if it has one: a width in cm";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new TextSetting(Unit, "in {}", "a unit", 12),
        new DecimalSetting(Least, "at least {}", "a least value"),
        new DecimalSetting(Most, "at most {}", "a greatest value"),
        new DecimalSetting(StepSize, "in steps of {}", "steps") { Positive = true },
        new WholeNumberSetting(Decimals, "with {} decimals", "decimals", 0, 6)
        {
            Default = JsonSerializer.SerializeToElement(0),
            ForTheForm = true,
        },
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(
            settings.Number(Least),
            settings.Number(Most),
            settings.Number(StepSize),
            settings.Whole(Decimals)!.Value,
            settings.Text(Unit) ?? ""
        );

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings)
    {
        if (settings.Number(Least) > settings.Number(Most))
        {
            yield return new SettingProblem(Least, "The least value is greater than the greatest. Make one of them fit.");
        }

        if (settings.Number(StepSize) is { } step && decimal.Round(step, settings.Whole(Decimals)!.Value) != step)
        {
            yield return new SettingProblem(
                StepSize,
                "The steps have more decimals than an answer may have. Allow more decimals, or make the steps larger."
            );
        }
    }

    private sealed class Rule(decimal? least, decimal? most, decimal? step, int decimals, string unit) : AnswerRule
    {
        private readonly string _behind = unit.Length > 0 ? " " + unit : "";

        private readonly NumberLimits _limits = new(
            least,
            most,
            step,
            decimals,
            (limit, language) => $"{LocalText.Number(limit, language)} {unit}".TrimEnd()
        );

        public override int LongestText => 1 + 15 + (decimals > 0 ? decimals + 1 : 0) + _behind.Length;

        public override string Unit => unit;

        public override FactKind Fact => FactKind.Number;

        public override JsonObject Schema
        {
            get
            {
                var schema = new JsonObject { ["type"] = "number" };
                Put(schema, "minimum", least);
                Put(schema, "maximum", most);
                return schema;
            }
        }

        public override decimal? LeastNumber => least;

        public override NumberRange? Range => NumberRange.Of(least, most, step, decimals);

        public override ImmutableArray<AnswerValue> Samples => _limits.Samples;

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            if (
                !ExactNumber.TryRead(raw, context.Language, decimals, LocalText.Number, out var number, out var twice)
                || Math.Abs(number) >= NumberRange.Bound
            )
            {
                return Reading.Refused(twice ?? new Refusal(RefusalKeys.NotNumber));
            }

            return _limits.Check(number, context.Language) is { } refusal
                ? Reading.Refused(refusal)
                : Reading.Of(ExactNumber.Canonical(raw, number));
        }

        public override string TextOf(AnswerValue value, string language) => LocalText.Number(value.Number!.Value, language) + _behind;

        public override string SystemTextOf(AnswerValue value, string language) =>
            value.Number!.Value.ToString(CultureInfo.InvariantCulture) + _behind;

        private static void Put(JsonObject schema, string name, decimal? limit)
        {
            if (limit is not null)
            {
                schema[name] = limit;
            }
        }
    }
}
