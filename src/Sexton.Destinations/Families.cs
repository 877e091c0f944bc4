using Sexton.Core.Routing;

namespace Sexton.Destinations;

/// <summary>The families that the kinds here belong to.</summary>
public static class Families
{
    /// <summary>Pages that a person opens.</summary>
    public static readonly DestinationFamily Pages = new("pages", "Pages");

    /// <summary>Messages that are sent to a person.</summary>
    public static readonly DestinationFamily Messages = new("messages", "Messages");

    /// <summary>What is printed.</summary>
    public static readonly DestinationFamily Papers = new("papers", "Papers");

    /// <summary>Other programs.</summary>
    public static readonly DestinationFamily Systems = new("systems", "Systems");
}
