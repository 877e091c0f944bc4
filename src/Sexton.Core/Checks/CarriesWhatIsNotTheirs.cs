using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Routing;

namespace Sexton.Core.Checks;

/// <summary>
/// A message carries a paper on which something stands that is not for whoever gets it: an answer about somebody else or what things cost, where an answer names who that is; a
/// sensitive answer that does not go in the message itself, wherever it goes.
/// </summary>
internal sealed class CarriesWhatIsNotTheirs : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        from destination in plan.Destinations.All
        where !destination.Plain.Retired
        from paper in destination.Papers
        from why in Reasons(plan, destination, paper)
        select new Problem("carries_what_is_not_theirs", destination.Key, "settings", why, []);

    private static IEnumerable<string> Reasons(RegisterPlan plan, BoundDestination destination, BoundDestination paper)
    {
        if (destination.Kind.Audience == Audience.Recipient && paper.Kind.ShowsPrices)
        {
            yield return $"It carries “{paper.Name}”, which says what things cost, and that is not for whoever gets it. Choose another paper.";
        }

        foreach (var planned in plan.Displayed.Where(f => f.Field.GoesTo.Contains(paper.Key)))
        {
            if (destination.IsAboutAnother(planned.Level, planned.Field.Privacy))
            {
                yield return $"It carries “{paper.Name}”, on which “{planned.Field.NameForStaff}” stands, and that is about somebody else than whoever gets it. Leave it off the paper, or choose another.";
            }
            else if (planned.Field.Sensitive && !planned.Field.GoesTo.Contains(destination.Key))
            {
                yield return $"It carries “{paper.Name}”, on which “{planned.Field.NameForStaff}” stands, which is sensitive and does not go in the message itself. Leave it off the paper, let it go there too, or choose another.";
            }
        }
    }
}
