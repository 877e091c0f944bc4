using System.Collections.Immutable;
using Sexton.Core.Codes;
using Sexton.Core.Plan;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>Puts the codes of a shape into a net, under one scenario.</summary>
/// <param name="net">The net.</param>
/// <param name="plan">The register.</param>
/// <param name="shape">The shape.</param>
/// <param name="supposed">What is left open of each field, in the order of the parts.</param>
internal sealed class ShapeBuilder(CodeAutomaton net, RegisterPlan plan, CodeShape shape, ImmutableArray<PossibleAnswers> supposed)
{
    private readonly Dictionary<(int Part, bool Begun), int> _known = [];

    /// <summary>Where the codes begin.</summary>
    public int Root() => From(0, begun: false);

    /// <summary>The number of a field's part among those of the register: behind that of the goods.</summary>
    public static int PartOf(RegisterPlan plan, PlannedField field) => plan.CodeFields.IndexOf(field) + 1;

    // From a part on, where something stands before it or not.
    private int From(int part, bool begun)
    {
        if (part == shape.Parts.Length)
        {
            return CodeAutomaton.End;
        }

        if (_known.TryGetValue((part, begun), out var known))
        {
            return known;
        }

        var (made, separator) = (shape.Parts[part], begun ? shape.Parts[part].Separator : "");
        int Next(bool says) => From(part + 1, begun || says);
        return _known[(part, begun)] = made.Field is null
            ? net.Word(
                0,
                separator,
                new CodeTrie(net, 0).Of(
                    [.. shape.Goods.Select(made.TextOf)],
                    (_, i) => net.Pass(new CodeMark(MarkKind.Goods, 0, Goods: shape.Goods[i]), Next(true))
                )
            )
            : OfField(
                made,
                (PlannedField)made.Field,
                supposed[shape.Parts.Take(part).Count(static p => p.Field is not null)],
                separator,
                Next
            );
    }

    private int OfField(CodePart part, PlannedField field, PossibleAnswers open, string separator, Func<bool, int> next)
    {
        var place = PartOf(plan, field);
        var ways = new List<(int Next, CodeMark? Mark)>();
        if (open.Empty)
        {
            var text = part.WhenEmpty;
            ways.Add(
                (
                    net.Word(place, text.Length > 0 ? separator + text : "", next(text.Length > 0)),
                    new CodeMark(MarkKind.Empty, place, field)
                )
            );
        }

        if (open.Answered && part.Given.Length > 0)
        {
            ways.Add((net.Word(place, separator + part.Given, next(true)), new CodeMark(MarkKind.Given, place, field)));
        }
        else if (open.Answered && !part.Choices.IsEmpty)
        {
            ways.AddRange(Picks(part, field, open.Choices, separator, next));
        }
        else if (open.Answered)
        {
            var typed = new TypedAnswersBuilder(net, place);
            var after = net.Pass(new CodeMark(MarkKind.TypedTo, place, field), next(true));
            var from = field.Rule.Range is { } range ? typed.Numbers(range, after) : typed.Days(after);
            ways.Add((net.Word(place, separator, net.Pass(new CodeMark(MarkKind.TypedFrom, place, field), from)), null));
        }

        return net.Fork(place, ways);
    }

    private IEnumerable<(int Next, CodeMark? Mark)> Picks(
        CodePart part,
        PlannedField field,
        string offered,
        string separator,
        Func<bool, int> next
    )
    {
        var (choices, place) = (field.Rule.Choices, PartOf(plan, field));
        for (var i = 0; i < choices.Length; i++)
        {
            if (choices[i].Excludes && offered[i] == '1')
            {
                yield return (
                    net.Word(
                        place,
                        part.Choices[i].Text is { Length: > 0 } text ? separator + text : "",
                        next(part.Choices[i].Text.Length > 0)
                    ),
                    new CodeMark(MarkKind.Choice, place, field, Choice: choices[i].Key)
                );
            }
        }

        var together = Enumerable
            .Range(0, choices.Length)
            .Where(i => !choices[i].Excludes && offered[i] == '1')
            .Select(i => part.Choices[i])
            .ToImmutableArray();
        yield return (new PicksBuilder(net, place, field, together, separator, next).Start(), null);
    }
}
