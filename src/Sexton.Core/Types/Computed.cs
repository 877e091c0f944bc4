using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Formulas;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// An answer that nobody enters: a number or a text worked out from other answers and from facts of the product, exactly. From there on it
/// is an answer like any other: shown, priced, tested by conditions and sent.
/// </summary>
public sealed class Computed : FieldType
{
    private const string Rows = "working",
        Gives = "gives",
        Decimals = "decimals",
        Unit = "unit",
        Hidden = "hidden";
    private const string Text = "text",
        Number = "number";

    private const int LongestText = 500;

    /// <inheritdoc/>
    public override string Key => "worked_out";

    /// <inheritdoc/>
    public override string Name => "an answer worked out";

    /// <inheritdoc/>
    public override string ShortName => "worked out";

    /// <inheritdoc/>
    public override string Line => "made of other answers, and never entered";

    /// <inheritdoc/>
    public override bool IsComputed => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new OptionSetting(Gives, "gives {}", "", [KeyValuePair.Create(Number, "a number"), KeyValuePair.Create(Text, "a text")])
        {
            Default = JsonSerializer.SerializeToElement(Number),
        },
        new WholeNumberSetting(Decimals, "with {} decimals", "decimals", 0, 6) { Default = JsonSerializer.SerializeToElement(0) },
        new TextSetting(Unit, "in {}", "a unit", 12),
        new ToggleSetting(Hidden, "kept off the form", "that the form does not show it"),
        new FormulaSetting(Rows, "worked out by {}"),
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(
            settings.Formula(Rows),
            settings.Text(Gives) == Text,
            settings.Whole(Decimals)!.Value,
            settings.Text(Unit) ?? "",
            settings.Is(Hidden)
        );

    private sealed class Rule(ImmutableArray<FormulaRow> rows, bool text, int decimals, string unit, bool hidden) : AnswerRule
    {
        private readonly string _behind = unit.Length > 0 ? " " + unit : "";

        public override int LongestText => text ? Computed.LongestText : 1 + 15 + (decimals > 0 ? decimals + 1 : 0) + _behind.Length;

        public override bool IsWrittenIn(Func<string, bool> hasAll) => !text && base.IsWrittenIn(hasAll);

        public override string Unit => unit;

        public override FactKind Fact => text ? FactKind.Text : FactKind.Number;

        public override JsonObject Schema => text ? new() { ["type"] = "string", ["minLength"] = 1 } : new() { ["type"] = "number" };

        public override NumberRange? Range => text ? null : NumberRange.Of(null, null, null, decimals);

        public override ImmutableArray<AnswerValue> Samples => [];

        public override ImmutableArray<FormulaRow> Formula => rows;

        public override bool IsKeptOffTheForm => hidden;

        public override SettingProblem? Lacks =>
            rows.IsEmpty ? new SettingProblem(Rows, "It works nothing out yet. Say what it begins with.") : null;

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            if (raw.Text is { } joined)
            {
                return !text || !CanonicalText.TryMake(joined, out var plain) || !Graphemes.FitIn(plain, Computed.LongestText)
                        ? Reading.Refused(new Refusal("worked_out_too_much"))
                    : plain.Length == 0 ? Reading.Empty
                    : Reading.Of(AnswerValue.Of(plain));
            }

            if (text || raw.Number is not { } number || Math.Abs(number) >= NumberRange.Bound)
            {
                return Reading.Refused(new Refusal("worked_out_too_much"));
            }

            return Reading.Of(ExactNumber.Canonical(raw, number));
        }

        // What is beyond all numbers is refused by its size, not left out in silence.
        internal override AnswerValue? Rounded(Fraction number) => AnswerValue.Of(number.ToDecimal(decimals) ?? NumberRange.Bound);

        public override string TextOf(AnswerValue value, string language) =>
            value.Text ?? LocalText.Number(value.Number!.Value, language) + _behind;

        public override string SystemTextOf(AnswerValue value, string language) =>
            value.Text ?? value.Number!.Value.ToString(CultureInfo.InvariantCulture) + _behind;
    }
}
