using Sexton.Core.Catalogue;
using Sexton.Core.Checks.PossibleCodes;
using Sexton.Core.Codes;
using Sexton.Core.Plan;
using Sexton.Core.Routing;

namespace Sexton.Core.Checks;

/// <summary>An item code that two different things would share, that is too long, or that a destination refuses. Letters that differ only in their case are the same.</summary>
internal sealed class ItemCodes : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products)
    {
        if (plan.CodeFields.IsEmpty)
        {
            return [];
        }

        // Whether conditions can keep two things apart is asked only where something is found without them.
        var rough = In(new CodeSpace(plan, products, exactly: false), plan);
        return rough.Count == 0 ? rough : In(new CodeSpace(plan, products, exactly: true), plan);
    }

    private static List<Problem> In(CodeSpace space, RegisterPlan plan)
    {
        var problems = Shared(space)
            .Concat(TooLong(space, plan))
            .Concat(Refused(space, plan))
            .DistinctBy(static p => (p.Code, p.Field))
            .ToList();
        return space.ComparesAll ? problems : [.. problems, NotCompared(plan)];
    }

    private static IEnumerable<Problem> Shared(CodeSpace space) =>
        from pair in space.Shared()
        let field = pair.One.Last ?? pair.Other.Last
        where field is not null
        let same = pair.One.Code == pair.Other.Code
            ? $"{pair.One} and {pair.Other} would both be {pair.One.Code}"
            : $"{pair.One} would be {pair.One.Code} and {pair.Other} would be {pair.Other.Code}, which differ only in the case of their letters"
        select Wrong("code_shared", field, same + ". Give one of them another part.");

    private static IEnumerable<Problem> TooLong(CodeSpace space, RegisterPlan plan) =>
        from longest in space.Longest()
        let code = longest.Code
        where code.Last is not null
        let sentence = code.Code.Length > longest.Longest
            ? ("code_too_long", $"has {code.Code.Length} characters, and {longest.Longest} are allowed. Shorten a part.")
            : Limits(plan)
                .Where(l => code.Code.Length > l.Limits.Longest)
                .Select(l =>
                    (
                        "code_refused",
                        $"has {code.Code.Length} characters, and {l.Destination.Phrase} takes {l.Limits.Longest}. Shorten a part."
                    )
                )
                .FirstOrDefault()
        where sentence.Item1 is not null
        select Wrong(sentence.Item1, code.Last!, $"{code.Code}, the code of {code}, {sentence.Item2}");

    private static IEnumerable<Problem> Refused(CodeSpace space, RegisterPlan plan) =>
        from field in plan.CodeFields
        from limit in Limits(plan)
        from code in space.With(field, letter => !limit.Limits.Takes(letter))
        select Wrong(
            "code_refused",
            field,
            $"{code.Code}, the code of {code}, {limit.Limits.Wrong(code.Code)}, and {limit.Destination.Phrase} refuses it. Change a part."
        );

    // It can be meant: what falls together in one cart is refused there.
    private static Problem NotCompared(RegisterPlan plan) =>
        Wrong(
            "codes_not_compared",
            plan.CodeFields[^1],
            $"More codes can come up than are compared: of what {string.Join(", ", plan.CodeFields.Select(static f => $"“{f.Field.NameForStaff}”"))} contribute, some things may share one unseen. Put separators between the parts, or accept it with a reason."
        ) with
        {
            Basis = string.Join(
                '\n',
                plan.CodeFields.Select(static f => $"{f.Field.Key}: {string.Join(' ', f.Rule.Choices.Select(static c => c.Code))}")
            ),
        };

    private static IEnumerable<(BoundDestination Destination, ItemCodeLimits Limits)> Limits(RegisterPlan plan) =>
        plan.Destinations.All.Where(static d => d.Capacity.ItemCodes is not null).Select(static d => (d, d.Capacity.ItemCodes!));

    private static Problem Wrong(string code, PlannedField field, string sentence) => new(code, field.Field.Key, "code", sentence, []);
}
