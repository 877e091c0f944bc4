using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Microsoft.VisualBasic.FileIO;
using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types.Settings;
using Sexton.Destinations;

namespace Sexton.Server.Tests.Support;

/// <summary>
/// A kind of destination that exists only here: a folder into which a file of comma-separated values (RFC 4180) is dropped for each order, a row an answer:
/// slot, question, answer. Its charset is set for each destination; it takes no files.
/// </summary>
internal sealed class CsvDrop(string folder) : DeliveredKind
{
    public const string Part = "file";
    private const string Charset = "charset",
        Longest = "longest";

    public override string Key => "csv_drop";

    public override string Name => "A folder of files";

    public override string Phrase => "the folder";

    public override DestinationFamily Family { get; } = new("folders", "Folders");

    public override Audience Audience => Audience.Program;

    public override Evidence Ceiling => Evidence.Confirmed;

    public override bool TellsDoublesApart => true;

    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new TextSetting(Charset, "written in {}", "", 20) { Default = JsonSerializer.SerializeToElement("utf-8") },
        new WholeNumberSetting(Longest, "takes {} characters", "a limit", 1, 1000),
    ];

    public override Capacity CapacityOf(SettingReader settings) =>
        new()
        {
            Files = false,
            LongestLineText = settings.Whole(Longest),
            Characters =
                settings.Text(Charset) == "iso-8859-1"
                    ? new CharacterSet("the characters of ISO 8859-1", static rune => rune.Value <= 0xff)
                    : null,
        };

    public override byte[] Render(SentOrder order, int sequence) =>
        Encoding
            .GetEncoding(order.To.Settings.Text(Charset)!)
            .GetBytes(
                string.Concat(
                    order.Projection.Entries.Select(static e =>
                        string.Join(',', new[] { e.Slot.ToString(), e.Name, e.Text }.Select(Quoted)) + "\r\n"
                    )
                )
            );

    public override async Task<SendResult> SendAsync(BoundDestination to, byte[] artefact, Handover handover, CancellationToken cancel)
    {
        await handover.Begins();
        await File.WriteAllBytesAsync(PathOf(to, handover.Key), artefact, cancel);
        return new SendResult(SendOutcome.Taken, $"Dropped as {handover.Key}.", handover.Key, await FetchAsync(to, handover.Key, cancel));
    }

    public override SentOrder? ForTrial(SentOrder order) => null;

    public override async Task<byte[]?> FetchAsync(BoundDestination to, string receipt, CancellationToken cancel) =>
        await File.ReadAllBytesAsync(PathOf(to, receipt), cancel);

    public override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding.Judge(
            order.Projection,
            Part,
            Rows(Text(artefact)).ToDictionary(static r => SlotId.Parse(r.Fields[0]), static r => r.Fields[2]),
            Ceiling
        );

    public override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot) =>
        [new(Part, PartForm.Bytes, Text(artefact), [.. Rows(Text(artefact)).Where(r => r.Fields[0] == slot).Select(static r => r.Line)])];

    private string PathOf(BoundDestination to, string key)
    {
        Directory.CreateDirectory(Path.Combine(folder, to.Key));
        return Path.Combine(folder, to.Key, key.Replace('/', '-').Replace(':', '-') + ".csv");
    }

    // Bytes that are not UTF-8 are ISO 8859-1.
    private static string Text(byte[] bytes)
    {
        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            return Encoding.Latin1.GetString(bytes);
        }
    }

    private static string Quoted(string text) => '"' + text.Replace("\"", "\"\"", StringComparison.Ordinal) + '"';

    private static IEnumerable<(string[] Fields, int Line)> Rows(string text)
    {
        using var parser = new TextFieldParser(new StringReader(text))
        {
            Delimiters = [","],
            HasFieldsEnclosedInQuotes = true,
            TrimWhiteSpace = false,
        };
        while (!parser.EndOfData)
        {
            var line = (int)parser.LineNumber - 1;
            yield return (parser.ReadFields()!, line);
        }
    }
}
