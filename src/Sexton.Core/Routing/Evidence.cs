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

    /// <summary>Whoever an answer names: they get nothing that is about the shopper, or about another.</summary>
    Recipient,

    /// <summary>Another program: it gets days, numbers and amounts as standards write them, and every row of the prices.</summary>
    Program,
}

/// <summary>Whom the answers to a field are about.</summary>
public enum Privacy
{
    /// <summary>Nobody.</summary>
    Open,

    /// <summary>A person, who is the one who gets it where it is asked as often as something goes there.</summary>
    Personal,

    /// <summary>The shopper, or nobody's business but that of staff who need it.</summary>
    ShoppersOwn,
}

/// <summary>What stands together on the map. Each kind of destination says which one it belongs to.</summary>
/// <param name="Key">The stable key.</param>
/// <param name="Name">What stands over its columns.</param>
public sealed record DestinationFamily(string Key, string Name);
