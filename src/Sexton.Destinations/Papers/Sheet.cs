using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Sexton.Core.Types.Settings;

namespace Sexton.Destinations.Papers;

/// <summary>The sheet that a paper is printed on.</summary>
/// <param name="WidthMm">Its width, in millimetres.</param>
/// <param name="HeightMm">Its height, in millimetres.</param>
internal sealed record Sheet(int WidthMm, int HeightMm)
{
    private const string Size = "sheet",
        Turned = "turned",
        Width = "width",
        Height = "height",
        Lying = "lying";

    // ISO 216; the labels are common practice.
    private static readonly ImmutableArray<(string Key, string Name, int Width, int Height)> Known =
    [
        ("a4", "an A4 sheet", 210, 297),
        ("a5", "an A5 sheet", 148, 210),
        ("a6", "an A6 sheet", 105, 148),
        ("label", "a label of 100 by 150 mm", 100, 150),
    ];

    /// <summary>The settings that say which one.</summary>
    /// <param name="usual">The key of the sheet where none is chosen.</param>
    /// <param name="lying">Whether it lies where nothing is said.</param>
    public static IEnumerable<TypeSetting> Settings(string usual, bool lying = false) =>
        [
            new OptionSetting(Size, "is {}", "", [.. Known.Select(static k => new KeyValuePair<string, string>(k.Key, k.Name))])
            {
                Default = JsonSerializer.SerializeToElement(usual),
            },
            new OptionSetting(Turned, "{}", "", [new("upright", "upright"), new(Lying, "lying")])
            {
                Default = JsonSerializer.SerializeToElement(lying ? Lying : "upright"),
            },
            new WholeNumberSetting(Width, "cut to a width of {} mm", "a width", 30, 420),
            new WholeNumberSetting(Height, "cut to a height of {} mm", "a height", 20, 420),
        ];

    /// <summary>The sheet that settings say.</summary>
    public static Sheet Of(SettingReader settings)
    {
        var (_, _, width, height) = Known.First(k => k.Key == settings.Text(Size));
        var upright = settings.Text(Turned) != Lying;
        return new Sheet(settings.Whole(Width) ?? (upright ? width : height), settings.Whole(Height) ?? (upright ? height : width));
    }

    /// <summary>It in CSS (CSS Paged Media, "size").</summary>
    public string Css => string.Create(CultureInfo.InvariantCulture, $"{WidthMm}mm {HeightMm}mm");

    /// <summary>The margin in millimetres: what small sheets have little room for.</summary>
    public int MarginMm =>
        Math.Min(WidthMm, HeightMm) switch
        {
            >= 148 => 16,
            >= 90 => 7,
            _ => 3,
        };
}
