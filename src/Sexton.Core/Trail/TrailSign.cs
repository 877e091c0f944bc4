namespace Sexton.Core.Trail;

/// <summary>Derives the sign of one answer at one destination.</summary>
public static class TrailSign
{
    /// <summary>
    /// The sign. What was expected comes first, then what was found, then how the delivery stands: a finding is about bytes
    /// that exist, and outweighs what a later try is doing.
    /// </summary>
    /// <param name="expectation">What was expected.</param>
    /// <param name="finding">What was found.</param>
    /// <param name="delivery">How the delivery stands; null for a page, which is served instead.</param>
    public static Sign Of(Expectation expectation, Finding finding, DeliveryState? delivery)
    {
        if (expectation != Expectation.Verbatim)
        {
            return expectation switch
            {
                Expectation.NoLongerAsked => Sign.StruckLine,
                Expectation.LeftOut => Sign.FlaggedHole,
                _ => Sign.Nothing,
            };
        }

        return finding switch
        {
            Finding.Altered => Sign.TornSheet,
            Finding.Missing => Sign.DottedOutline,
            Finding.NotProvable => Sign.RaisedFlag,
            _ when delivery is DeliveryState.Refused or DeliveryState.NeedsAttention => Sign.RaisedFlag,
            Finding.Confirmed => Sign.SealedSheet,
            Finding.Shown or Finding.Included => Sign.FoldedSheet,
            _ => Sign.OpenSheet,
        };
    }
}
