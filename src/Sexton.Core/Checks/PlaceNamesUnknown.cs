using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Routing;

namespace Sexton.Core.Checks;

/// <summary>A named place in what a message says, in which nothing would ever stand: no answer of that name goes there, or there are several of them.</summary>
internal sealed class PlaceNamesUnknown : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        from destination in plan.Destinations.All
        where !destination.Plain.Retired
        from place in destination.Kind.PlacesIn(destination.Settings).Distinct()
        where !destination.Kind.OwnPlaces.Contains(place.Name)
        let why = Why(plan.Find(place.Name), place.Name, destination)
        where why is not null
        select new Problem("place_names_unknown", destination.Key, "settings." + place.Setting, why, []);

    private static string? Why(PlannedField? field, string name, BoundDestination destination) =>
        field is null
            ? $"“{{{name}}}” names no field. There are {string.Join(", ", destination.Kind.OwnPlaces.Select(static p => $"{{{p}}}"))} and the keys of fields that go there."
        : !field.Field.GoesTo.Contains(destination.Key)
            ? $"“{field.NameForStaff}” does not go there, so nothing would stand in “{{{name}}}”. Send it there too, or take the place out."
        : field.Level > destination.GoesBy
            ? $"“{field.NameForStaff}” is answered more often than the message goes out. Take “{{{name}}}” out."
        : null;
}
