using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Files;
using Sexton.Core.Types.Settings;

namespace Sexton.Core.Types;

/// <summary>One or several files, kept byte by byte as they came.</summary>
public sealed class FileUpload : FieldType
{
    internal const string Least = "least",
        Most = "most",
        Megabytes = "megabytes";
    private const string Kinds = "kinds";

    private static readonly JsonElement TenMegabytes = JsonSerializer.SerializeToElement(10),
        One = JsonSerializer.SerializeToElement(1);

    /// <summary>What files and pictures have in common: how many, and how large.</summary>
    internal static readonly ImmutableArray<TypeSetting> Common =
    [
        new WholeNumberSetting(Most, "at most {} of them", "a greatest number", 1, FileLimits.MostFiles) { Default = One },
        new WholeNumberSetting(Least, "at least {} of them, where there is an answer", "a least number", 1, FileLimits.MostFiles),
        new WholeNumberSetting(Megabytes, "each of at most {} MB", "a greatest size", 1, FileLimits.MostMegabytes)
        {
            Default = TenMegabytes,
        },
    ];

    /// <inheritdoc/>
    public override string Key => "file";

    /// <inheritdoc/>
    public override string Name => "a file";

    /// <inheritdoc/>
    public override string ShortName => "file";

    /// <inheritdoc/>
    public override string Line => "files, byte by byte as they come";

    /// <inheritdoc/>
    public override bool IsPersonal => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new OptionSetting(
            Kinds,
            "only {}",
            "some kinds of file only",
            [.. FileKinds.All.Select(static k => KeyValuePair.Create(k.Key, k.Name))],
            several: true
        ),
        .. Common,
    ];

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) => Describe("file", settings);

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings)
    {
        var only = settings.Texts(Kinds);
        return new FileRule(
            only.IsEmpty ? FileKinds.All : [.. FileKinds.All.Where(k => only.Contains(k.Key))],
            settings.Whole(Least) ?? 1,
            settings.Whole(Most)!.Value,
            settings.Whole(Megabytes)!.Value,
            null,
            settings.Shop
        );
    }

    /// <summary>"picture", "up to 3 pictures".</summary>
    internal static string Describe(string name, SettingReader settings) =>
        settings.Whole(Most) is > 1 and var most ? $"up to {TextLimits.Number(most)} {name}s" : name;

    /// <summary>A least number above the greatest.</summary>
    internal static IEnumerable<SettingProblem> TooFewFor(SettingReader settings)
    {
        if (settings.Whole(Least) > settings.Whole(Most))
        {
            yield return new SettingProblem(
                Least,
                $"At least {settings.Whole(Least)} and at most {settings.Whole(Most)} cannot both be. Make one of them fit."
            );
        }
    }

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) => TooFewFor(settings);
}
