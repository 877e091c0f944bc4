using System.Text.Json;
using Sexton.Core.Facts;
using Sexton.Core.Register.Settings;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>What something new begins with, before anything about it is changed. Keys are checked by <see cref="KeyRules"/>.</summary>
public static class NewItems
{
    /// <summary>
    /// A field. It goes wherever new fields go and its answers are taken: what must not go somewhere is switched off by hand. In a section it has the level and
    /// step of that; else it is asked in the cart once an order, or on the product page.
    /// </summary>
    /// <param name="key">Its key.</param>
    /// <param name="type">Its kind of answer.</param>
    /// <param name="label">What the shopper is asked.</param>
    /// <param name="level">Of what it is asked; that of the section counts where it stands in one.</param>
    /// <param name="section">The section that it stands in; null for none.</param>
    /// <param name="askedOf">The products that ask it; null for none yet. Of an order, and in a section, it is asked of all.</param>
    /// <param name="destinations">Where answers can go.</param>
    /// <exception cref="DraftEditException">There is no label, or it cannot be kept.</exception>
    public static Field Field(
        string key,
        FieldType type,
        string label,
        Level level,
        Section? section,
        ProductScope? askedOf,
        DestinationIndex destinations
    )
    {
        var plain = new Field
        {
            Key = key,
            Type = type.Key,
            Level = section?.Level ?? level,
            Step = section?.Step ?? Facts.Step.FirstOf(level).Key,
            Section = section?.Key,
            Label = LanguageMap.Empty,
            Personal = type.IsPersonal,
            AskedOf = section is null && level != Level.Order ? (askedOf ?? ProductScope.Only()).Tidy() : ProductScope.Every,
        };
        var field = FieldSettings.Apply(plain, "label." + LanguageMap.Fallback, JsonSerializer.SerializeToElement(label), destinations);
        return field.Label.IsEmpty ? throw new DraftEditException("label", "Say what the shopper is asked.")
            : type.AsksNothing ? field
            : Routes.Begin(field, type.Bind(new SettingReader(type, field.Settings)), destinations);
    }

    /// <summary>
    /// Another field like one that there is: with all that is set of that, but what the shopper reads above it, which is its own. It is asked as soon as it is
    /// published, also where the other is switched off.
    /// </summary>
    /// <param name="original">The field that it is like.</param>
    /// <param name="key">Its key.</param>
    /// <param name="label">What the shopper is asked.</param>
    /// <param name="destinations">Where answers can go.</param>
    /// <exception cref="DraftEditException">There is no label, or it cannot be kept; or the other is a question of the shop's own.</exception>
    public static Field FieldLike(Field original, string key, string label, DestinationIndex destinations)
    {
        if (original.BuiltIn)
        {
            throw new DraftEditException("like", $"“{original.Label}” is a question of the shop’s own: there is one of it.");
        }

        // A rule that judges the answer of the other judges its own.
        var plain = original with
        {
            Key = key,
            Label = LanguageMap.Empty,
            StaffLabel = "",
            SwitchedOff = false,
            Retired = false,
            RefusedWhen = original.RefusedWhen?.About(ShopFacts.OfAnswer(original.Key), ShopFacts.OfAnswer(key)),
        };
        var field = FieldSettings.Apply(plain, "label." + LanguageMap.Fallback, JsonSerializer.SerializeToElement(label), destinations);
        return field.Label.IsEmpty ? throw new DraftEditException("label", "Say what the shopper is asked.") : field;
    }

    /// <summary>A section. What is answered to its opening question is shown on the pages of staff until it is sent elsewhere too.</summary>
    /// <param name="key">Its key.</param>
    /// <param name="heading">What stands above its fields.</param>
    /// <param name="level">Of what its fields are asked.</param>
    /// <param name="destinations">Where answers can go.</param>
    /// <exception cref="DraftEditException">There is no heading, or it cannot be kept.</exception>
    public static Section Section(string key, string heading, Level level, DestinationIndex destinations)
    {
        var plain = new Section
        {
            Key = key,
            Level = level,
            Step = Facts.Step.FirstOf(level).Key,
            Heading = LanguageMap.Empty,
            GoesTo =
            [
                .. destinations
                    .All.Where(static d => d is { Kind: { IsDelivered: false, Audience: Audience.Staff }, Plain.TakesNewFields: true })
                    .Select(static d => d.Key),
            ],
        };
        var section = SectionEdit.Apply(plain, "heading." + LanguageMap.Fallback, JsonSerializer.SerializeToElement(heading), destinations);
        return section.Heading.IsEmpty ? throw new DraftEditException("heading", "Say what stands above its fields.") : section;
    }

    /// <summary>A step of the shop's own.</summary>
    /// <param name="key">Its key.</param>
    /// <param name="name">What the shopper reads above it.</param>
    /// <param name="after">The key of the step that it follows.</param>
    /// <exception cref="DraftEditException">There is no name, or it cannot be kept.</exception>
    public static CustomStep Step(string key, string name, string after)
    {
        var plain = new CustomStep(key, LanguageMap.Empty, after);
        var step = SectionEdit.Apply(plain, "name." + LanguageMap.Fallback, JsonSerializer.SerializeToElement(name));
        return step.Name.IsEmpty ? throw new DraftEditException("name", "Say what the shopper reads above it.") : step;
    }

    /// <summary>A destination. Nothing goes there until it is switched on.</summary>
    /// <param name="key">Its key.</param>
    /// <param name="kind">The key of its kind.</param>
    /// <param name="name">What it is called.</param>
    /// <param name="kinds">The kinds that there are.</param>
    /// <exception cref="DraftEditException">There is no such kind, or none that is made by hand; or the name is missing or cannot be kept.</exception>
    public static Destination Destination(string key, string kind, string name, DestinationKinds kinds)
    {
        if (kinds.Find(kind) is not { IsBuiltIn: false } found)
        {
            throw new DraftEditException("kind", $"There is no kind of destination “{kind}” to be made.");
        }

        var plain = new Destination
        {
            Key = key,
            Kind = found.Key,
            Name = "",
            Otherwise = found.OtherwiseAtFirst,
        };
        return DestinationEdit.Apply(plain, "name", JsonSerializer.SerializeToElement(name), kinds);
    }
}
