using Sexton.Core.Catalogue;
using Sexton.Core.Plan;

namespace Sexton.Core.Checks;

/// <summary>Answers go to a destination that was taken out: a change that put them there was undone since, or the other way round.</summary>
internal sealed class GoesToUnknown : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        from planned in plan.Displayed
        from destination in planned.Field.GoesTo.Union(planned.Field.LeftOut)
        where plan.Destinations.Find(destination) is null
        select new Problem(
            "goes_to_unknown",
            planned.Field.Key,
            "goes_to." + destination,
            $"It goes to “{destination}”, and there is no such destination.",
            [Remedy.To("Leave it off", "goes_to." + destination, false)]
        );
}
