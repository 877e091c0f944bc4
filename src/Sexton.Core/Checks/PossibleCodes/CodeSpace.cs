using System.Globalization;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Values;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>The item codes that can come up: which two things share one, how long they get, and which have a character that is refused. None of it lists them.</summary>
internal sealed class CodeSpace
{
    private readonly RegisterPlan _plan;
    private readonly CodeAutomaton _net = new();
    private readonly CodeWays _ways;
    private readonly List<(int Root, CodeShape Shape)> _roots = [];

    /// <summary>Makes it.</summary>
    /// <param name="plan">The register.</param>
    /// <param name="products">What is sold.</param>
    /// <param name="exactly">Whether conditions are minded that hang on answers in the code itself, or on the goods. Else any condition can hold or not.</param>
    public CodeSpace(RegisterPlan plan, ProductIndex products, bool exactly)
    {
        (_plan, _ways) = (plan, new CodeWays(_net));
        var scenarios = new Scenarios(plan, products);
        foreach (var shape in CodeShape.Of(plan.Coder, products, exactly ? scenarios.Of : Scenarios.Roughly))
        {
            if (_net.IsTooGreat)
            {
                ComparesAll = false;
                return;
            }

            var root = _net.Fork(
                0,
                shape.Scenarios.Select(supposed => (new ShapeBuilder(_net, plan, shape, supposed).Root(), (CodeMark?)null))
            );
            if (root != CodeAutomaton.Nowhere)
            {
                _roots.Add((root, shape));
            }
        }
    }

    /// <summary>Whether all codes were put in, and all pairs of them looked at.</summary>
    public bool ComparesAll { get; private set; } = true;

    /// <summary>Two things with one code, for each part of the codes in which such two differ first.</summary>
    public IReadOnlyList<(PossibleCode One, PossibleCode Other)> Shared()
    {
        var root = _net.Fork(0, _roots.Select(static r => (r.Root, (CodeMark?)null)));
        if (root == CodeAutomaton.Nowhere)
        {
            return [];
        }

        var search = new CodeSearch(_net);
        var shared = search.Shared(root).Select(pair => (CodeOf(pair.One), CodeOf(pair.Other))).ToList();
        ComparesAll &= search.SawAll;
        return shared;
    }

    /// <summary>The longest code of each shape, and the greatest length that it can have.</summary>
    public IEnumerable<(PossibleCode Code, int Longest)> Longest() =>
        _ways.Longest(_roots.Select(static r => r.Root)).Zip(_roots, (way, root) => (CodeOf(way), root.Shape.Longest));

    /// <summary>Codes in which the part of a field has a character that is meant, one of each shape.</summary>
    public IEnumerable<PossibleCode> With(PlannedField field, Func<char, bool> isMeant) =>
        _ways.Through(_roots.Select(static r => r.Root), ShapeBuilder.PartOf(_plan, field), isMeant).Select(CodeOf);

    private PossibleCode CodeOf(CodeWay way)
    {
        var goods = default(Goods);
        var answers = new List<KeyValuePair<PlannedField, AnswerValue?>>();
        var (picks, typed) = (new Dictionary<string, int>(StringComparer.Ordinal), "");
        foreach (var (mark, letter) in way.Passed)
        {
            typed =
                mark?.Kind == MarkKind.TypedFrom ? ""
                : letter == '\0' ? typed
                : typed + letter;
            switch (mark)
            {
                case { Kind: MarkKind.Goods, Goods: { } sold }:
                    goods = sold;
                    break;
                case { Kind: MarkKind.Given, Field: { } field }:
                    answers.Add(KeyValuePair.Create(field, field.Rule.Samples.FirstOrDefault(static s => s.Truth != false)));
                    break;
                case { Kind: MarkKind.Choice, Field: { } field, Choice: { } choice }:
                    Take(field, choice, mark.Times);
                    break;
                case { Kind: MarkKind.TypedTo, Field: { } field, Choice: { } choice }:
                    Take(field, choice, int.Parse(typed, CultureInfo.InvariantCulture));
                    break;
                case { Kind: MarkKind.TypedTo, Field: { } field }:
                    answers.Add(
                        KeyValuePair.Create(
                            field,
                            (AnswerValue?)(
                                field.Rule.Range is null
                                    ? AnswerValue.Of(typed)
                                    : AnswerValue.Of(decimal.Parse(typed, CultureInfo.InvariantCulture))
                            )
                        )
                    );
                    break;
            }
        }

        return CodeOf(goods, answers);

        void Take(PlannedField field, string choice, int times)
        {
            if (answers.Count == 0 || answers[^1].Key != field)
            {
                picks.Clear();
                answers.Add(KeyValuePair.Create(field, (AnswerValue?)null));
            }

            picks[choice] = times;
            answers[^1] = KeyValuePair.Create(field, (AnswerValue?)Picked(field, picks));
        }
    }

    private static AnswerValue Picked(PlannedField field, Dictionary<string, int> picks) =>
        field.Rule.Fact switch
        {
            FactKind.List => AnswerValue.Of([.. field.Rule.Choices.Where(c => picks.ContainsKey(c.Key)).Select(static c => c.Key)]),
            FactKind.Number => AnswerValue.Of(
                picks.Select(static p => KeyValuePair.Create(p.Key, p.Value.ToString(CultureInfo.InvariantCulture)))
            ),
            _ => AnswerValue.Of(picks.Keys.Single()),
        };

    private PossibleCode CodeOf(Goods goods, List<KeyValuePair<PlannedField, AnswerValue?>> answers)
    {
        var code = new CodeText(stackalloc char[CodeText.Usual]);
        PlannedField? last = null;
        foreach (var part in _plan.Coder.PartsOf(goods.Product))
        {
            var at = answers.FindIndex(a => a.Key == part.Field);
            last = at >= 0 || part.WhenEmpty.Length > 0 ? (PlannedField?)part.Field ?? last : last;
            part.Append(ref code, goods, at < 0 ? null : answers[at].Value ?? AnswerValue.Yes);
        }

        return new PossibleCode(code.ToString(), goods, answers, last);
    }
}
