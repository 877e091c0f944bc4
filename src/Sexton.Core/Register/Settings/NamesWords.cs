using Sexton.Core.Routing;
using Sexton.Core.Types;

namespace Sexton.Core.Register.Settings;

/// <summary>How two destinations differ in what they call fields and answers, in words.</summary>
internal static class NamesWords
{
    // A day whose parts cannot be taken for one another.
    private const string Example = "2026-11-27";

    public static IEnumerable<ClauseChange> Of(Destination? old, SideWords then, Destination now, SideWords here)
    {
        var fields = now.Names.Keys.Union(old?.Names.Keys ?? [], StringComparer.Ordinal).Order(StringComparer.Ordinal);
        foreach (var field in fields)
        {
            var (before, after) = (
                old?.Names.GetValueOrDefault(field) ?? NamesThere.None,
                now.Names.GetValueOrDefault(field) ?? NamesThere.None
            );
            var name = SideWords.Quoted(here.FieldName(field) ?? then.FieldName(field) ?? field);
            yield return new($"calls {name} ", SideWords.Quoted(before.Name), SideWords.Quoted(after.Name), "");
            foreach (var key in after.Words.Values.Keys.Union(before.Words.Values.Keys, StringComparer.Ordinal))
            {
                yield return new(
                    $"for {SideWords.Quoted(here.ValueName(field, key) ?? then.ValueName(field, key) ?? key)} of {name} says ",
                    SideWords.Quoted(before.Words.Values.GetValueOrDefault(key)),
                    SideWords.Quoted(after.Words.Values.GetValueOrDefault(key)),
                    ""
                );
            }

            yield return new($"writes the day of {name} as ", Written(before.Words.Days), Written(after.Words.Days), "");
            yield return new($"writes {name} as ", StandsAs(before), StandsAs(after), "");
            yield return new($"writes {name} with ", StandsWith(before), StandsWith(after), "");
            yield return new(
                $"what does not fit of {name} ",
                DestinationWords.Said(before.Otherwise),
                DestinationWords.Said(after.Otherwise),
                ""
            );
        }
    }

    private static string StandsAs(NamesThere names) => names.AsValue ? "a value under its name" : "a line of text";

    private static string StandsWith(NamesThere names) => names.WithOrder ? "the order" : "what it is about";

    private static string Written(DayForm? form) => form?.Write(Example) ?? "";
}
