using System.Collections.Immutable;

namespace Sexton.Core.Types;

/// <summary>What an official registry said of a number.</summary>
public enum RegistryFinding
{
    /// <summary>It was not asked yet.</summary>
    NotAsked,

    /// <summary>It knows the number.</summary>
    Valid,

    /// <summary>It does not know the number.</summary>
    Unknown,

    /// <summary>It could not be asked.</summary>
    Unreachable,
}

/// <summary>What registries said of the numbers of a cart. Asking them is not the core's: whoever evaluates finds out, and evaluates again.</summary>
/// <param name="byNumber">The findings, by canonical number.</param>
public sealed class RegistryFindings(ImmutableDictionary<string, RegistryFinding> byNumber)
{
    /// <summary>Nothing was asked.</summary>
    public static readonly RegistryFindings None = new(ImmutableDictionary<string, RegistryFinding>.Empty);

    /// <summary>What was said of a number.</summary>
    public RegistryFinding Of(string number) => byNumber.GetValueOrDefault(number, RegistryFinding.NotAsked);
}
