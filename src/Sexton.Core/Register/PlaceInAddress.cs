using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Register;

/// <summary>A place between the parts of a postal address, where another field can stand: "delivery_address.street" is after the street.</summary>
/// <param name="Address">The key of the field that is the address.</param>
/// <param name="Part">The part after which it is.</param>
public readonly record struct PlaceInAddress(string Address, string Part)
{
    /// <summary>Reads a place; null where it is none.</summary>
    public static PlaceInAddress? Read(string? written) =>
        written?.Split('.') is [var address, var part] && FieldKey.IsValid(address) && NameOf(part) is not null
            ? new PlaceInAddress(address, part)
            : null;

    /// <summary>It in words: "the street of “Delivery address”".</summary>
    /// <param name="nameOf">What staff call a field.</param>
    public string InWords(Func<string, string?> nameOf) => $"the {NameOf(Part)} of “{nameOf(Address) ?? Address}”";

    private static string? NameOf(string part) => PostalAddress.PartNames.FirstOrDefault(p => p.Key == part).Name;
}
