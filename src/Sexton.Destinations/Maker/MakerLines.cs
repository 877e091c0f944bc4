using System.Text.Json;
using Sexton.Core.Types.Settings;

namespace Sexton.Destinations.Maker;

/// <summary>The setting that says which lines go to a maker, in the house or outside.</summary>
internal static class MakerLines
{
    private const string Name = "lines",
        ByHand = "by_hand";

    /// <summary>The setting.</summary>
    public static readonly OptionSetting Setting = new(
        Name,
        "gets {}",
        "",
        [new("as_said", "lines as said above, and those given to it by hand"), new(ByHand, "only lines given to it by hand")]
    )
    {
        Default = JsonSerializer.SerializeToElement("as_said"),
    };

    /// <summary>Whether it gets only what is given to it by hand.</summary>
    public static bool OnlyByHand(SettingReader settings) => settings.Text(Name) == ByHand;
}
