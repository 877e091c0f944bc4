namespace Sexton.Core.Routing;

/// <summary>The best evidence that a destination can give of an answer.</summary>
public enum Evidence
{
    /// <summary>Its projection was served to somebody.</summary>
    Shown,

    /// <summary>It was read back from the very bytes handed over.</summary>
    Included,

    /// <summary>The other side said so, or it was read back from there.</summary>
    Confirmed,
}

/// <summary>Who reads what arrives at a destination.</summary>
public enum Audience
{
    /// <summary>The shopper.</summary>
    Shopper,

    /// <summary>The people of the shop.</summary>
    Staff,

    /// <summary>Another program: it gets days, numbers and amounts as standards write them, and every row of the prices.</summary>
    Program,
}

/// <summary>What stands together on the map. Each kind of destination says which one it belongs to.</summary>
/// <param name="Key">The stable key.</param>
/// <param name="Name">What stands over its columns.</param>
public sealed record DestinationFamily(string Key, string Name);
