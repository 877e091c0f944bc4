using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Projections;

namespace Sexton.Destinations.Maker;

/// <summary>
/// Finds the slots in a job as the maker gives it back: each under the name that its answer was sent by, in the job, in what is about its order, or in the piece
/// that it is about.
/// </summary>
internal static class JobReader
{
    /// <summary>The texts by slot.</summary>
    /// <param name="job">The job.</param>
    /// <param name="sent">What was sent.</param>
    public static IReadOnlyDictionary<SlotId, string> Read(JsonNode? job, Projection sent) =>
        sent
            .Entries.Select(e => (e.Slot, Text: TextOf(e, job)))
            .Where(static f => f.Text is not null)
            .ToDictionary(static f => f.Slot, static f => f.Text!);

    /// <summary>The value in a job that stands for a slot, or null.</summary>
    public static JsonNode? NodeOf(JsonNode? job, Projection sent, string slot) =>
        sent.Entries.FirstOrDefault(e => e.Slot.ToString() == slot) is { } entry ? ValueOf(entry, HolderOf(entry, job)) : null;

    private static string? TextOf(Entry entry, JsonNode? job)
    {
        var holder = HolderOf(entry, job);
        var value = ValueOf(entry, holder);
        if (!entry.Files.IsEmpty)
        {
            return ReadJson.Files(value);
        }

        var rest = Remark.Read(ReadJson.Text(ReadJson.Member(holder, JobWriter.Rest)) ?? "").GetValueOrDefault(entry.Field);
        return ReadJson.Text(value) is { } text ? Entry.ProofOf(text, rest) : null;
    }

    private static JsonNode? ValueOf(Entry entry, JsonNode? holder) =>
        ReadJson.Member(ReadJson.Member(holder, entry.Files.IsEmpty ? JobWriter.Answers : JobWriter.Files), entry.Name);

    private static JsonNode? HolderOf(Entry entry, JsonNode? job) =>
        entry.Level switch
        {
            Level.Order => ReadJson.Member(job, JobWriter.Order),
            Level.Line => job,
            _ => ReadJson.Named(ReadJson.Member(job, JobWriter.Pieces), JobWriter.Piece).FirstOrDefault(p => p.Name == entry.UnitId).Node,
        };
}
