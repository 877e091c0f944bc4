using System.Collections.Immutable;
using Sexton.Core.Codes;
using Sexton.Core.Routing;

namespace Sexton.Core.Register.Settings;

/// <summary>How two destinations differ in what they get, when, and what is done with what does not fit, in words.</summary>
internal static class DestinationWords
{
    public static IEnumerable<ClauseChange> Of(Destination? old, SideWords then, Destination now, SideWords here) =>
        [
            new("", SideWords.Flag(old?.SwitchedOff == true, "switched off"), SideWords.Flag(now.SwitchedOff, "switched off"), ""),
            new("", SideWords.Flag(old?.Retired == true, "retired"), SideWords.Flag(now.Retired, "retired"), ""),
            new("gets only that of which ", then.Sentence(old?.Gets), here.Sentence(now.Gets), ""),
            new("leaves out prices when ", then.Sentence(old?.WithoutPricesWhen), here.Sentence(now.WithoutPricesWhen), ""),
            new("in the order ", Listed(old, then), Listed(now, here), ""),
            .. Leaving(old, then, now, here),
            .. here.KindOf(now) is { FollowsAnother: false, TellsEvents: false }
                ? [new ClauseChange("gets it ", Moment(old, then), Moment(now, here), "")]
                : Array.Empty<ClauseChange>(),
            new(
                "",
                SideWords.Flag(old?.OnlyOnce == true, "nothing again after a correction"),
                SideWords.Flag(now.OnlyOnce, "nothing again after a correction"),
                ""
            ),
            new("what does not fit ", Said(old?.Otherwise ?? Otherwise.Refuse), Said(now.Otherwise), ""),
        ];

    /// <summary>What is done with what does not fit.</summary>
    public static string Said(Otherwise? otherwise) =>
        otherwise switch
        {
            Otherwise.Call => "stops it, and whoever answers for it is called",
            Otherwise.Shorten => "is shortened with a mark",
            Otherwise.Note => "goes on in its note",
            Otherwise.Refuse => "is refused before publishing",
            _ => "",
        };

    /// <summary>How a line, or a component of one, leaves.</summary>
    public static string Said(LineLeaving leaving) =>
        leaving switch
        {
            LineLeaving.Beside => "with their components beside them",
            LineLeaving.Instead => "as their components",
            _ => "together",
        };

    private static IEnumerable<ClauseChange> Leaving(Destination? old, SideWords then, Destination now, SideWords here) =>
        Leaving("lines of ", old?.ProductsLeave, now.ProductsLeave, code => here.ProductName(code) ?? code)
            .Concat(Leaving("those with ", old?.FieldsLeave, now.FieldsLeave, key => here.FieldName(key) ?? then.FieldName(key) ?? key));

    private static IEnumerable<ClauseChange> Leaving(
        string of,
        ImmutableSortedDictionary<string, LineLeaving>? old,
        ImmutableSortedDictionary<string, LineLeaving> now,
        Func<string, string> name
    ) =>
        now
            .Keys.Union(old?.Keys ?? [], StringComparer.Ordinal)
            .Order(StringComparer.Ordinal)
            .Select(key => new ClauseChange(
                $"{of}{SideWords.Quoted(name(key))} leave for it ",
                old?.TryGetValue(key, out var before) == true ? Said(before) : "",
                now.TryGetValue(key, out var after) ? Said(after) : "",
                ""
            ));

    private static string Listed(Destination? side, SideWords words) =>
        string.Join(", ", (side?.Order ?? []).Select(k => SideWords.Quoted(words.FieldName(k) ?? k)));

    private static string Moment(Destination? side, SideWords words) =>
        side?.Release switch
        {
            Release.Paid => "when the order is paid",
            Release.Approved => "when its lines are approved",
            Release.Prepared => "when its lines are prepared",
            Release.Day => $"on the day of {SideWords.Quoted(side.Day is null ? "…" : words.FieldName(side.Day) ?? side.Day)}",
            _ => "when the order is placed",
        };
}
