using Sexton.Core.Facts;
using Sexton.Core.Register;
using Sexton.Core.Types;

namespace Sexton.Core.Plan;

/// <summary>
/// Where questions can stand: the shop's own where the order has what it needs when it needs it, and those between the parts of an address beside that address.
/// </summary>
/// <param name="content">The register.</param>
internal sealed class PlacementRules(RegisterContent content)
{
    /// <summary>What stands where it cannot.</summary>
    public IEnumerable<CompileProblem> Problems() =>
        content
            .Fields.Where(static f => !f.Retired)
            .SelectMany(f => (CompileProblem?[])[f.BuiltIn ? OfOwn(f) : null, OfPlaceInAddress(f)])
            .OfType<CompileProblem>();

    private CompileProblem? OfOwn(Field field)
    {
        var (step, section) = (StepOf(field), content.FindSection(field.Section));
        var setting = section is null ? "step" : "section";
        if (step == Step.ProductPage.Key)
        {
            return new(
                field.Key,
                setting,
                $"“{field.Label}” is about the whole order, and not about one product. Ask it in the cart or later."
            );
        }

        if (field.Key == BuiltInFields.PaymentMethod && step != Step.Payment.Key)
        {
            return new(field.Key, setting, $"Payment needs “{field.Label}”: the order is paid there. Ask it at payment.");
        }

        if (field.Key is BuiltInFields.DeliveryMethod or BuiltInFields.DeliveryAddress && step == Step.Payment.Key)
        {
            return new(
                field.Key,
                setting,
                $"Payment needs “{field.Label}” before it: what is paid depends on where the goods go. Ask it at an earlier step."
            );
        }

        return BuiltInFields.MustBeAnswered(field.Key) && section is not null && IsAskedAtTimes(section)
            ? new(
                field.Key,
                setting,
                $"No order can do without “{field.Label}”, and “{section.Heading}” is not asked always. Take it out of the section, or ask the section always."
            )
            : null;
    }

    private static bool IsAskedAtTimes(Section section) =>
        !section.Opening.IsEmpty || section.When is not null || section.Retired || !section.AskedOf.All || !section.AskedOf.Groups.IsEmpty;

    private CompileProblem? OfPlaceInAddress(Field field)
    {
        if (PlaceInAddress.Read(field.StandsAfter) is not { } place)
        {
            return null;
        }

        var address = content.Find(place.Address);
        return address is null || address.Type != PostalAddress.TypeKey
                ? Problem($"There is no address “{place.Address}”. Choose another, or let it stand by itself.")
            : address.Level != field.Level || StepOf(address) != StepOf(field) || address.Section != field.Section
                ? Problem(
                    $"“{address.NameForStaff}” is asked elsewhere. Ask both as often, at the same step and in the same section, or let it stand by itself."
                )
            : field.Type == PostalAddress.TypeKey ? Problem("An address does not stand within another one. Let it stand by itself.")
            : null;

        CompileProblem Problem(string sentence) => new(field.Key, "stands_after", sentence);
    }

    private string StepOf(Field field) => content.FindSection(field.Section)?.Step ?? field.Step;
}
