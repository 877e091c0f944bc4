using System.Collections.Immutable;
using Sexton.Core.Files;
using Sexton.Core.Types.Settings;

namespace Sexton.Core.Types;

/// <summary>
/// One or several pictures, chosen or taken with the camera. They are brought upright when they come, and lose where they were taken and what
/// else the camera wrote beside the picture.
/// </summary>
public sealed class PictureUpload : FieldType
{
    private const string ShorterSide = "shorter_side";

    // A square of these is as large as a picture can be.
    private const int LongestSide = 7_000;

    /// <inheritdoc/>
    public override string Key => "picture";

    /// <inheritdoc/>
    public override string Name => "a picture";

    /// <inheritdoc/>
    public override string ShortName => "picture";

    /// <inheritdoc/>
    public override string Line => "pictures, brought upright";

    /// <inheritdoc/>
    public override bool IsPersonal => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new WholeNumberSetting(ShorterSide, "both sides of at least {} pixels", "a least number of pixels", 1, LongestSide),
        .. FileUpload.Common,
    ];

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) => FileUpload.Describe("picture", settings);

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new FileRule(
            FileKinds.Pictures,
            settings.Whole(FileUpload.Least) ?? 1,
            settings.Whole(FileUpload.Most)!.Value,
            settings.Whole(FileUpload.Megabytes)!.Value,
            settings.Whole(ShorterSide) ?? 0,
            settings.Shop
        );

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) => FileUpload.TooFewFor(settings);
}
