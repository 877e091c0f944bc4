using System.Collections.Immutable;
using System.Globalization;
using Sexton.Core.Values;

namespace Sexton.Core.Files;

/// <summary>A file that was uploaded, as far as an answer is checked by it.</summary>
/// <param name="Value">Its name, size and hash.</param>
/// <param name="Kind">The key of the kind that its content tells; null for none that is known.</param>
/// <param name="Width">The width in pixels, upright; 0 for what cannot be opened as a picture.</param>
/// <param name="Height">The height in pixels, upright.</param>
public sealed record KeptFile(FileValue Value, string? Kind, int Width = 0, int Height = 0);

/// <summary>The files that a cart can refer to, by the id under which each was uploaded. Fetching them is not the core's.</summary>
/// <param name="byId">The files.</param>
public sealed class KeptFiles(ImmutableDictionary<string, KeptFile> byId)
{
    /// <summary>What the form's own ids begin with that stand for uploads not yet done.</summary>
    public const string UnderWay = "under-way-";

    private const string SamplePrefix = "sample-";

    // Fits every limit on pixels that can be set.
    private const int SampleSide = 7_000;

    private readonly bool _samples;

    private KeptFiles(bool samples)
        : this(ImmutableDictionary<string, KeptFile>.Empty) => _samples = samples;

    /// <summary>No files.</summary>
    public static readonly KeptFiles None = new(samples: false);

    /// <summary>Samples of every kind, for previews and trial carts, where nobody uploads anything.</summary>
    public static readonly KeptFiles Samples = new(samples: true);

    /// <summary>The id of a sample.</summary>
    /// <param name="kind">Its kind.</param>
    /// <param name="number">Tells several apart, from 1.</param>
    public static string SampleId(FileKind kind, int number) =>
        string.Create(CultureInfo.InvariantCulture, $"{SamplePrefix}{number}{kind.Endings[0]}");

    /// <summary>The file with an id, or null when there is none for this cart.</summary>
    public KeptFile? Find(string id) => _samples ? Sample(id) : byId.GetValueOrDefault(id);

    private static KeptFile? Sample(string id) =>
        id.StartsWith(SamplePrefix, StringComparison.Ordinal)
        && FileKinds.All.FirstOrDefault(k => k.Endings[0] == Path.GetExtension(id)) is { } kind
            ? new KeptFile(
                new FileValue(id, 100_000, new string('0', 64)),
                kind.Key,
                kind.IsPicture ? SampleSide : 0,
                kind.IsPicture ? SampleSide : 0
            )
            : null;
}
