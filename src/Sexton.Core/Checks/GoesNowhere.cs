using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Routing;

namespace Sexton.Core.Checks;

/// <summary>A field whose answers reach nobody who fulfils the order.</summary>
internal sealed class GoesNowhere : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        plan
            .Displayed.Where(static f => f.Section is null && !f.Type.AsksNothing && f.Field.GoesTo.IsEmpty)
            .Select(static f => f.Field)
            .Select(f => new Problem(
                "goes_nowhere",
                f.Key,
                "goes_to",
                "Nobody would get the answers.",
                [.. Fulfilling(plan, f).OrderByDescending(static d => d.Kind.Ceiling).Take(2).Select(Send)]
            ));

    // Those who fulfil an order are the shop's people and its programs.
    private static IEnumerable<BoundDestination> Fulfilling(RegisterPlan plan, Field field) =>
        plan.Destinations.All.Where(d =>
            d.Kind.Audience is Audience.Staff or Audience.Program
            && d.Plain is { TakesNewFields: true, Retired: false }
            && d.Takes(field.Level)
        );

    private static Remedy Send(BoundDestination destination) =>
        Remedy.To(
            destination.Kind.IsDelivered ? $"Send them to {destination.Phrase}" : $"Show them on {destination.Phrase}",
            "goes_to." + destination.Key,
            true
        );
}
