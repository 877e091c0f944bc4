namespace Sexton.Core.Routing;

/// <summary>What happens to an order and can be told to another program.</summary>
public enum OrderEvent
{
    /// <summary>It was placed.</summary>
    Placed,

    /// <summary>It was paid, or is on account, or there was nothing to pay.</summary>
    Paid,

    /// <summary>Its lines were approved, or nothing held them.</summary>
    Approved,

    /// <summary>Somebody said that a line of it is prepared.</summary>
    Prepared,

    /// <summary>Somebody said that a line of it is not prepared after all.</summary>
    PreparationTakenBack,

    /// <summary>Another destination took it, or a line or unit of it.</summary>
    Arrived,

    /// <summary>A revision of it was made.</summary>
    Corrected,
}
