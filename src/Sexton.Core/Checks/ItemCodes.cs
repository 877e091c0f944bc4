using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Register;
using Sexton.Core.Routing;

namespace Sexton.Core.Checks;

/// <summary>An item code that two different things would share, that is too long, or that the back office refuses.</summary>
internal sealed class ItemCodes : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products)
    {
        if (plan.CodeFields.IsEmpty)
        {
            yield break;
        }

        var known = new Dictionary<string, PossibleCode>(StringComparer.Ordinal);
        var told = new HashSet<(string Code, string Field)>();
        foreach (var code in CodeSpace.All(plan, products))
        {
            // A code without any answer is that of the catalogue, and not of the register.
            var field = code.Answers.Select(static a => a.Key.Field.Key).LastOrDefault();
            if (field is not null && Wrong(plan, code) is { } wrong && told.Add((wrong.Code, field)))
            {
                yield return new Problem(wrong.Code, field, "code", wrong.Sentence, []);
            }

            if (!known.TryAdd(code.Code, code) && known[code.Code] is var other && (field ?? other.Answers.Select(static a => a.Key.Field.Key).LastOrDefault()) is { } named && told.Add(("code_shared", named)))
            {
                yield return new Problem("code_shared", named, "code", $"{other} and {code} would both be {code.Code}. Give one of them another part.", []);
            }
        }
    }

    private static (string Code, string Sentence)? Wrong(RegisterPlan plan, PossibleCode code)
    {
        var longest = plan.Content.Codes.For(code.Goods.Product.Code).Longest!.Value;
        if (code.Code.Length > longest)
        {
            return ("code_too_long", $"{code.Code}, the code of {code}, has {code.Code.Length} characters, and {longest} are allowed. Shorten a part.");
        }

        return DestinationIndex.All.Where(static d => d.ItemCodes is not null).Select(d => d.ItemCodes!.Wrong(code.Code) is { } wrong
                ? ("code_refused", $"{code.Code}, the code of {code}, {wrong}, and {d.Phrase} refuses it. Change a part.")
                : ((string, string)?)null)
            .FirstOrDefault(static w => w is not null);
    }
}
