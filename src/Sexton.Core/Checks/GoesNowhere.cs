using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Routing;

namespace Sexton.Core.Checks;

/// <summary>A field whose answers reach nobody who fulfils the order.</summary>
internal sealed class GoesNowhere : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        plan
            .Displayed.Where(static f => f.Section is null && !f.Type.AsksNothing && f.Field.GoesTo.IsEmpty)
            .Select(static f => f.Field)
            .Select(static f => new Problem(
                "goes_nowhere",
                f.Key,
                "goes_to",
                "Nobody would get the answers.",
                [
                    Remedy.To("Send them to the back office", "goes_to." + DestinationIndex.BackOffice, true),
                    Remedy.To("Show them on the order page", "goes_to." + DestinationIndex.OrderPage, true),
                ]
            ));
}
