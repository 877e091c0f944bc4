using Microsoft.EntityFrameworkCore;
using Sexton.Core.Facts;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;
using Sexton.Server.Files;
using Sexton.Server.Versions;

namespace Sexton.Server.Fields;

/// <summary>What may not be changed in the draft, whichever way the change comes: by hand or by undoing another.</summary>
internal sealed class DraftGuards(FieldTypes types, DestinationKinds kinds, PublishedKeys published, SextonDb db, ShopPictures pictures)
{
    /// <summary>Checks what something is about to become.</summary>
    /// <param name="row">It as it is.</param>
    /// <param name="definition">It as it would be.</param>
    /// <param name="setting">The path that is changed, for the refusal.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task CheckAsync(DraftItemRow row, string definition, string setting, CancellationToken cancel)
    {
        if (row.Kind == DraftItemKind.Field)
        {
            var (before, after) = (DraftItems.Parse<Field>(row), DraftItems.Read<Field>(definition));
            await CheckFixedAsync(row, setting, before.Type != after.Type || before.Level != after.Level, cancel);
            await CheckSettingsAsync(before, after, setting, cancel);
            if (await pictures.FirstMissingAsync(Pictures(after).Except(Pictures(before), StringComparer.Ordinal), cancel) is { } missing)
            {
                throw new DraftEditException(setting, $"The shop has no picture “{missing}”. Choose one, or paste it here.");
            }
        }
        else if (row.Kind == DraftItemKind.Destination)
        {
            await CheckConnectionsAsync(DraftItems.Read<Destination>(definition), setting, cancel);
        }
        else if (row.Kind == DraftItemKind.Section)
        {
            await CheckFixedAsync(row, setting, DraftItems.Parse<Section>(row).Level != DraftItems.Read<Section>(definition).Level, cancel);
        }
    }

    private async Task CheckConnectionsAsync(Destination after, string setting, CancellationToken cancel)
    {
        var named = kinds.Find(after.Kind) is { } kind ? kind.ConnectionsIn(new SettingReader(kind.Settings, after.Settings)) : [];
        foreach (var key in named)
        {
            if (!await db.Connections.AnyAsync(c => c.Key == key, cancel))
            {
                throw new DraftEditException(setting, $"The shop has no connection “{key}”. Make it under “The shop” first.");
            }
        }
    }

    /// <summary>Checks that what comes back, or goes back, finds the section and the step that it stood in.</summary>
    /// <param name="kind">What it is.</param>
    /// <param name="key">Its key.</param>
    /// <param name="definition">Its definition, as it would be.</param>
    /// <param name="register">The draft without it.</param>
    public static void CheckSurroundings(DraftItemKind kind, string key, string definition, RegisterContent register)
    {
        var (section, step) = kind switch
        {
            DraftItemKind.Field => DraftItems.Read<Field>(definition) is var field
                ? (field.Section, field.Section is null ? field.Step : null)
                : default,
            DraftItemKind.Section => (null, DraftItems.Read<Section>(definition).Step),
            _ => default((string?, string?)),
        };
        var isGone = section is not null
            ? register.FindSection(section) is null
            : step is not null && !Step.Standard.Any(s => s.Key == step) && !register.Steps.Any(s => s.Key == step);
        if (isGone)
        {
            throw ApiProblemException.Conflict(
                "changed_since",
                $"“{key}” stood in “{section ?? step}”, which was taken out since. Put that back first."
            );
        }
    }

    /// <summary>Checks whether something can go.</summary>
    public async Task CheckRemovalAsync(DraftItemRow row, RegisterContent register, CancellationToken cancel)
    {
        var key = row.Key;
        if (register.Find(key) is { BuiltIn: true } field)
        {
            throw ApiProblemException.Unprocessable(
                "built_in",
                $"“{field.Label}” is one of the shop’s own questions and cannot be taken out."
            );
        }

        if (row.Kind == DraftItemKind.Destination)
        {
            await CheckRemovalAsync(DraftItems.Parse<Destination>(row), register, cancel);
        }

        if (row.Kind is DraftItemKind.Codes or DraftItemKind.Sentences)
        {
            throw ApiProblemException.Unprocessable("built_in", "What belongs to the whole shop cannot be taken out.");
        }

        if (
            register.Fields.Any(f => f.Section == key)
            || (row.Kind == DraftItemKind.Step && (register.Fields.Any(f => f.Step == key) || register.Sections.Any(s => s.Step == key)))
        )
        {
            throw ApiProblemException.Unprocessable("not_empty", "There are fields in it. Move them elsewhere first.");
        }

        if (await published.IsAnsweredAsync(key, cancel))
        {
            throw ApiProblemException.Unprocessable(
                "has_answers",
                "Orders have answers to it. Retire it instead: it will not be asked again, and its answers can still be read."
            );
        }
    }

    private async Task CheckRemovalAsync(Destination destination, RegisterContent register, CancellationToken cancel)
    {
        if (kinds.Find(destination.Kind)?.IsBuiltIn == true)
        {
            throw ApiProblemException.Unprocessable(
                "built_in",
                $"“{destination.Name}” is one of the shop’s own pages and cannot be taken out."
            );
        }

        // Orders can go there at any moment from its publication on.
        if ((await published.SinceAsync(cancel)).ContainsKey(destination.Key))
        {
            throw ApiProblemException.Unprocessable(
                "was_published",
                $"“{destination.Name}” was published, and what went there must stay readable. Retire it instead."
            );
        }

        var carriers = register
            .Destinations.Where(d =>
                kinds.Find(d.Kind) is { } kind && kind.CarriesIn(new SettingReader(kind.Settings, d.Settings)).Contains(destination.Key)
            )
            .Select(static d => $"“{d.Name}”")
            .ToList();
        if (carriers.Count > 0)
        {
            throw ApiProblemException.Unprocessable(
                "is_carried",
                $"“{destination.Name}” goes with {string.Join(" and ", carriers)}. Take it out there first."
            );
        }

        var routed = register
            .Fields.Where(f => f.GoesTo.Contains(destination.Key) || f.LeftOut.Contains(destination.Key))
            .Select(static f => f.Label.ToString())
            .Concat(register.Sections.Where(s => s.GoesTo.Contains(destination.Key)).Select(static s => s.Heading.ToString()))
            .ToList();
        if (routed.Count > 0)
        {
            throw ApiProblemException.Unprocessable(
                "not_empty",
                $"To “{destination.Name}” goes what is answered to {string.Join(", ", routed.Select(static r => $"“{r}”"))}. Switch that off first."
            );
        }
    }

    private async Task CheckFixedAsync(DraftItemRow row, string setting, bool changes, CancellationToken cancel)
    {
        if (changes && (await published.SinceAsync(cancel)).ContainsKey(row.Key))
        {
            throw new DraftEditException(
                setting,
                "It was published, so this stays as it is: its answers must stay readable. Add another instead."
            );
        }
    }

    private async Task CheckSettingsAsync(Field before, Field after, string setting, CancellationToken cancel)
    {
        var type = types.Find(after.Type) ?? throw new DraftEditException("type", $"There is no kind of answer “{after.Type}”.");
        if (setting.StartsWith("settings.", StringComparison.Ordinal) && type.Validate(after.Settings).FirstOrDefault() is { } wrong)
        {
            throw new DraftEditException("settings." + wrong.Name, wrong.Sentence);
        }

        if (KeyRules.AddedChoices(before, after) is { Count: > 0 } added)
        {
            KeyRules.CheckChoices(
                added,
                await published.ChoicesNowAsync(after.Key, cancel),
                await published.ChoicesEverAsync(after.Key, cancel),
                setting
            );
        }
    }

    private static IEnumerable<string> Pictures(Field field) =>
        OneOf.ChoicesIn(field.Settings).Select(static c => c.Picture).Append(field.Picture).Where(static p => p.Length > 0);
}
