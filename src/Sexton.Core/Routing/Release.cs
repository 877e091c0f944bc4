namespace Sexton.Core.Routing;

/// <summary>The moment from which a destination may have an order, or one of its lines.</summary>
public enum Release
{
    /// <summary>When the order is placed.</summary>
    Placed,

    /// <summary>When it is paid; on account, or with nothing to pay, when it is placed.</summary>
    Paid,

    /// <summary>When its lines are approved; what nothing holds is approved when it is paid.</summary>
    Approved,

    /// <summary>When somebody said that its lines are prepared.</summary>
    Prepared,

    /// <summary>On a day that an answer gives, at eight in the morning where the shop is; at once where no day was given, or it is over.</summary>
    Day,
}
