using Sexton.Core.Catalogue;
using Sexton.Core.Plan;

namespace Sexton.Core.Checks;

/// <summary>An answer that does not go somewhere, and can be read there all the same: from the item code, or from what leaves the shelf for it. It can be meant.</summary>
internal sealed class GivesAway : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        from planned in plan.Displayed
        let field = planned.Field
        from destination in plan.Destinations.All
        where destination is { Capacity.ItemCodes: not null, Plain.Retired: false } && !field.GoesTo.Contains(destination.Key)
        from tell in Telling(planned)
        select new Problem(
            "gives_away",
            field.Key,
            tell.Setting,
            $"The answers do not go to {destination.Phrase}{(field.Sensitive ? " and are sensitive" : "")}, and can be read there from {tell.From}. Send them there too, take that away, or accept it with a reason.",
            [Remedy.To("Send them to " + destination.Phrase, "goes_to." + destination.Key, true)]
        )
        {
            Basis = $"{destination.Key}: {tell.What}",
        };

    private static IEnumerable<(string Setting, string From, string What)> Telling(PlannedField planned)
    {
        var field = planned.Field;
        if (field.Code is { } code)
        {
            yield return (
                "code",
                "the item code",
                code.Part.Length > 0 ? code.Part : string.Join(", ", planned.Rule.Choices.Select(static c => $"{c.Key}={c.Code}"))
            );
        }

        if (!field.Uses.IsEmpty)
        {
            yield return (
                "uses",
                "the components that it uses up",
                string.Join(", ", field.Uses.Select(static u => $"{u.Choice}={u.Item}"))
            );
        }
    }
}
