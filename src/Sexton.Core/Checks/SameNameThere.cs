using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Routing;

namespace Sexton.Core.Checks;

/// <summary>Two answers under one name where a program finds them by it: it could not tell which is which.</summary>
internal sealed class SameNameThere : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        from destination in plan.Destinations.All
        where (destination.Kind.FindsByName || destination.Kind.HasNamedValues) && !destination.Plain.Retired
        from same in plan
            .Displayed.Where(f => f.Field.GoesTo.Contains(destination.Key) && destination.FindsByName(f.Key))
            .SelectMany(f => NamesOf(f, destination).Select(name => (Field: f, Name: name)))
            .GroupBy(static n => n.Name, StringComparer.Ordinal)
        let fields = same.Select(static n => n.Field).Distinct().ToList()
        where fields.Count > 1
        select new Problem(
            "same_name_there",
            destination.Key,
            "names." + fields[1].Key,
            $"Answers are found by their names in {destination.Phrase}, and {string.Join(" and ", fields.Select(static f => $"“{f.NameForStaff}”"))} are both called “{same.Key}” there. Call one of them otherwise.",
            []
        );

    private static IEnumerable<string> NamesOf(PlannedField field, BoundDestination destination) =>
        destination.NamesOf(field.Key).Name is { IsEmpty: false } name ? name.Texts.Values.Distinct(StringComparer.Ordinal) : [field.Key];
}
