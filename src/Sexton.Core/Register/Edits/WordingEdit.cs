using System.Text.Json;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>Changes to a wording of a destination in one language.</summary>
internal static class WordingEdit
{
    public static JsonElement Read(Destination destination, string setting, string language) =>
        EditValue.Json(
            destination.Settings.TryGetValue(setting, out var value) && value.ValueKind == JsonValueKind.Object
                ? Map(value).Texts.GetValueOrDefault(language)
                : null
        );

    /// <summary>The whole setting with the text of one language; null where what is left is what the kind says by itself.</summary>
    public static JsonElement With(
        Destination destination,
        DestinationKind kind,
        string setting,
        string language,
        JsonElement text,
        string path
    )
    {
        if (kind.Settings.FirstOrDefault(s => s.Name == setting) is not WordingSetting wording)
        {
            throw DestinationEdit.Unknown(path);
        }

        // What it says in a language by itself is not kept beside its own words.
        var usual = wording.Default is { } said ? Map(said) : LanguageMap.Empty;
        var now = destination.Settings.TryGetValue(setting, out var value) ? Map(value) : LanguageMap.Empty;
        var given = text.ValueKind == JsonValueKind.Null ? EditValue.Json("") : text;
        var changed = EditValue.With(now, language, given, path, wording.Longest);
        foreach (var (same, _) in usual.Texts.Where(u => changed.Texts.GetValueOrDefault(u.Key) == u.Value))
        {
            changed = changed.With(same, "");
        }

        return changed.IsEmpty ? EditValue.Json<string?>(null) : EditValue.Json(changed);
    }

    private static LanguageMap Map(JsonElement value) => value.Deserialize<LanguageMap>(DocumentJson.Options)!;
}
