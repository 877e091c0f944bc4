namespace Sexton.Core.Trail;

/// <summary>Where a delivery stands.</summary>
public enum DeliveryState
{
    /// <summary>It waits for its first or next try.</summary>
    Waiting,

    /// <summary>A worker is at it.</summary>
    Sending,

    /// <summary>The other side took it.</summary>
    Sent,

    /// <summary>Handed over, but the acknowledgement was lost.</summary>
    Uncertain,

    /// <summary>The other side refused it for a reason that another try does not change.</summary>
    Refused,

    /// <summary>It was tried as often as is sensible, or must not go as it is; somebody must look.</summary>
    NeedsAttention,

    /// <summary>It waits for its release: that somebody says it is prepared, or for its day.</summary>
    NotReleased,

    /// <summary>It goes elsewhere instead: what it was about was given to another.</summary>
    Withdrawn,

    /// <summary>Somebody settled it by hand: nothing more is done about it.</summary>
    SettledByHand,
}

/// <summary>What reading an artefact back found of one answer.</summary>
public enum Finding
{
    /// <summary>Nothing was read back yet.</summary>
    None,

    /// <summary>Served, as expected.</summary>
    Shown,

    /// <summary>It stands in the bytes handed over, as expected.</summary>
    Included,

    /// <summary>The other side has it, as expected.</summary>
    Confirmed,

    /// <summary>Another text stands in its place.</summary>
    Altered,

    /// <summary>Its place is not there.</summary>
    Missing,

    /// <summary>It was taken, and could not be read back.</summary>
    NotProvable,
}

/// <summary>What was expected of an answer at a destination.</summary>
public enum Expectation
{
    /// <summary>It should be there exactly as given.</summary>
    Verbatim,

    /// <summary>It does not go there.</summary>
    NotRouted,

    /// <summary>There is nothing to send: the shopper left it empty.</summary>
    LeftEmpty,

    /// <summary>There is nothing to send: it was answered, and then no longer asked.</summary>
    NoLongerAsked,

    /// <summary>It could not go there from the start, and nobody chose so.</summary>
    LeftOut,

    /// <summary>It should be there shortened, or with its rest in a note, as was agreed.</summary>
    Adapted,
}

/// <summary>The signs of the trail: our motif is the sheet of paper.</summary>
public enum Sign
{
    /// <summary>Nothing: it does not go there.</summary>
    Nothing,

    /// <summary>Open sheet: on its way.</summary>
    OpenSheet,

    /// <summary>Sheet with a folded corner: shown or included.</summary>
    FoldedSheet,

    /// <summary>Sealed sheet: confirmed.</summary>
    SealedSheet,

    /// <summary>Sheet torn across: altered.</summary>
    TornSheet,

    /// <summary>Dotted outline: missing.</summary>
    DottedOutline,

    /// <summary>Sheet with a raised flag: somebody must look.</summary>
    RaisedFlag,

    /// <summary>Struck line: no longer asked.</summary>
    StruckLine,

    /// <summary>Hole with a flag: left out.</summary>
    FlaggedHole,

    /// <summary>Folded sheet with a cut corner: shown or included, adapted as agreed.</summary>
    CutFoldedSheet,

    /// <summary>Sealed sheet with a cut corner: confirmed, adapted as agreed.</summary>
    CutSealedSheet,
}
