using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Routing;
using Sexton.Core.Types;

namespace Sexton.Core.Checks;

/// <summary>An answer may be longer than a destination takes.</summary>
internal sealed class LongerThanTaken : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products)
    {
        foreach (var planned in plan.Displayed)
        {
            var field = planned.Field;
            foreach (var destination in DestinationIndex.All.Where(d => field.GoesTo.Contains(d.Key)))
            {
                if (!destination.HasRoomFor(planned.Rule, field.Level) && destination.Longest(field.Level) is { } takes)
                {
                    var remedies = new List<Remedy> { Remedy.To("Leave off " + destination.Phrase, "goes_to." + destination.Key, false) };
                    if (planned.Type.Settings.Any(s => string.Equals(s.Name, LineText.Longest, StringComparison.Ordinal)))
                    {
                        remedies.Add(Remedy.To($"Allow {takes}", "settings." + LineText.Longest, takes));
                    }

                    yield return new Problem(
                        "longer_than_taken",
                        field.Key,
                        "goes_to." + destination.Key,
                        $"An answer may have {planned.Rule.LongestText} characters, and {destination.Phrase} takes {takes}.",
                        [.. remedies]
                    );
                }
            }
        }
    }
}
