namespace Sexton.Core.Trail;

/// <summary>Derives the sign of one answer at one destination.</summary>
public static class TrailSign
{
    /// <summary>
    /// The sign. What was expected comes first; then what is wrong with bytes that exist, which outweighs what a later try is doing; then that somebody is
    /// wanted; then what is well.
    /// </summary>
    /// <param name="expectation">What was expected.</param>
    /// <param name="finding">What was found.</param>
    /// <param name="delivery">How the delivery stands; null for a page, which is served instead.</param>
    /// <example><code>TrailSign.Of(Expectation.Verbatim, Finding.Confirmed, DeliveryState.Sent) // Sign.SealedSheet</code></example>
    public static Sign Of(Expectation expectation, Finding finding, DeliveryState? delivery)
    {
        if (expectation is not (Expectation.Verbatim or Expectation.Adapted))
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
            Finding.Confirmed => expectation == Expectation.Adapted ? Sign.CutSealedSheet : Sign.SealedSheet,
            Finding.Shown or Finding.Included => expectation == Expectation.Adapted ? Sign.CutFoldedSheet : Sign.FoldedSheet,
            _ => Sign.OpenSheet,
        };
    }
}
