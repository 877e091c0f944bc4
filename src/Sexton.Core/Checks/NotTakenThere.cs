using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Routing;
using Sexton.Core.Types;

namespace Sexton.Core.Checks;

/// <summary>An answer goes to a destination that cannot take it: it may be too long, a file, or in characters that are not known there.</summary>
internal sealed class NotTakenThere : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        from planned in plan.Displayed
        let field = planned.Field
        from destination in plan.Destinations.All
        where field.GoesTo.Contains(destination.Key) && !destination.Plain.Retired
        let why = destination.WhyNot(field.Key, planned.Rule, field.Level, field.Privacy)
        where why is not null
        select new Problem("not_taken_there", field.Key, "goes_to." + destination.Key, why, [.. Remedies(planned, destination)]);

    private static IEnumerable<Remedy> Remedies(PlannedField planned, BoundDestination destination)
    {
        yield return Remedy.To("Leave off " + destination.Phrase, "goes_to." + destination.Key, false);
        if (
            destination.Longest(destination.StandsWith(planned.Key, planned.Level)) is { } takes
            && planned.Rule.LongestText > takes
            && planned.Type.Settings.Any(static s => string.Equals(s.Name, LineText.Longest, StringComparison.Ordinal))
        )
        {
            yield return Remedy.To($"Allow {takes}", "settings." + LineText.Longest, takes);
        }
    }
}
