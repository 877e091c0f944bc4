using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Files;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// What files and pictures have in common: entered as the ids of uploads, kept as name, size and SHA-256 of each. What a file is says its
/// content; its name is only what people call it.
/// </summary>
/// <param name="kinds">The kinds that are taken.</param>
/// <param name="least">The least number of files, where there is an answer at all.</param>
/// <param name="most">The greatest number.</param>
/// <param name="megabytes">The greatest size of each, in millions of bytes.</param>
/// <param name="shorterSide">The least length of the shorter side of a picture, in pixels; 0 for any. Null where pictures are kept as they came.</param>
/// <param name="shop">What the shop says.</param>
internal sealed class FileRule(ImmutableArray<FileKind> kinds, int least, int most, int megabytes, int? shorterSide, Sentences.Wording shop)
    : AnswerRule
{
    private static readonly Refusal NotFiles = new("not_files");

    private string KindsIn(string language) => string.Join(", ", kinds.Select(k => shop.Say("file.kind_" + k.Key, language)));

    public override long LargestFile => megabytes * 1_000_000L;

    public override bool RewritesPictures => shorterSide is not null;

    public override int LongestText => most * (FileNames.Longest + 12);

    /// <summary>How many there are.</summary>
    public override FactKind Fact => FactKind.Number;

    public override AnswerValue FactOf(AnswerValue value) => AnswerValue.Of((decimal)value.Files!.Value.Length);

    public override string FactText(AnswerValue number, string language) => number.ToString();

    public override JsonObject Schema =>
        new()
        {
            ["type"] = "array",
            ["minItems"] = least,
            ["maxItems"] = most,
            ["items"] = new JsonObject
            {
                ["type"] = "object",
                ["required"] = new JsonArray("name", "size", "sha256"),
                ["additionalProperties"] = false,
                ["properties"] = new JsonObject
                {
                    ["name"] = new JsonObject
                    {
                        ["type"] = "string",
                        ["minLength"] = 1,
                        ["maxLength"] = FileNames.Longest,
                    },
                    ["size"] = new JsonObject
                    {
                        ["type"] = "integer",
                        ["minimum"] = 1,
                        ["maximum"] = LargestFile,
                    },
                    ["sha256"] = new JsonObject { ["type"] = "string", ["pattern"] = "^[0-9a-f]{64}$" },
                },
            },
        };

    public override ImmutableArray<AnswerValue> Samples =>
        [.. kinds.Take(2).Select(kind => AnswerValue.Of([.. Enumerable.Range(1, least).Select(n => KeptFiles.SampleId(kind, n))]))];

    public override ImmutableDictionary<string, JsonElement> ForTheForm(string language) =>
        ImmutableDictionary<string, JsonElement>
            .Empty.Add("media_types", JsonSerializer.SerializeToElement(kinds.Select(static k => k.MediaType)))
            .Add("endings", JsonSerializer.SerializeToElement(kinds.SelectMany(static k => k.Endings)))
            .Add("kinds_in_words", JsonSerializer.SerializeToElement(KindsIn(language)))
            .Add("most", JsonSerializer.SerializeToElement(most))
            .Add("bytes", JsonSerializer.SerializeToElement(LargestFile))
            .Add("shorter_side", JsonSerializer.SerializeToElement(shorterSide ?? 0))
            .Add("sample", JsonSerializer.SerializeToElement(KeptFiles.SampleId(kinds[0], 1)));

    public override Reading Read(AnswerValue raw, IAnswerContext context)
    {
        if (raw.Picks is not { } ids)
        {
            return Reading.Refused(NotFiles);
        }

        var files = ImmutableArray.CreateBuilder<FileValue>(ids.Length);
        foreach (var id in ids.Distinct(StringComparer.Ordinal))
        {
            if (context.File(id) is not { } file)
            {
                return Reading.Refused(
                    id.StartsWith(KeptFiles.UnderWay, StringComparison.Ordinal)
                        ? new Refusal("file_under_way", Part: id)
                        : new Refusal("file_gone", Part: id)
                );
            }

            if (Check(file, context.Language) is { } refusal)
            {
                return Reading.Refused(refusal with { Part = id });
            }

            files.Add(file.Value);
        }

        return files.Count < least ? Reading.Refused(new Refusal("too_few_files", TextLimits.Number(least)))
            : files.Count > most ? Reading.Refused(new Refusal("too_many_files", TextLimits.Number(most)))
            : Reading.Of(AnswerValue.Of(files.ToImmutable()));
    }

    public override string TextOf(AnswerValue value, string language) =>
        string.Join('\n', value.Files!.Value.Select(f => f.TextIn(language)));

    private Refusal? Check(KeptFile file, string language)
    {
        var name = file.Value.Name;
        return kinds.FirstOrDefault(k => k.Key == file.Kind) is not { } kind ? new Refusal("wrong_kind_of_file", name, KindsIn(language))
            : file.Value.Size > LargestFile ? new Refusal("file_too_large", name, FileValue.SizeText(LargestFile, LanguageMap.Fallback))
            : kind.IsPicture && file.Width == 0 ? new Refusal("picture_damaged", name)
            : shorterSide is not null && (long)file.Width * file.Height > FileLimits.MostPixels
                ? new Refusal("too_many_pixels", name, TextLimits.Number(FileLimits.MostPixels / 1_000_000))
            : kind.IsPicture && Math.Min(file.Width, file.Height) < shorterSide
                ? new Refusal("too_few_pixels", name, TextLimits.Number(shorterSide.Value))
            : null;
    }
}
