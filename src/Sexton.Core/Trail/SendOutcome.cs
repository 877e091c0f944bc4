namespace Sexton.Core.Trail;

/// <summary>How handing an artefact over ended.</summary>
public enum SendOutcome
{
    /// <summary>The other side took it.</summary>
    Taken,

    /// <summary>The other side took it, and did not give back what it has: to be asked for again, and not sent again.</summary>
    TakenUnread,

    /// <summary>The other side refused it; the same again would be refused again.</summary>
    Refused,

    /// <summary>It was certainly not taken; another try may work.</summary>
    NotTaken,

    /// <summary>It was handed over, and the acknowledgement was lost.</summary>
    Lost,

    /// <summary>It was not handed over, since it does not fit there: somebody must say what becomes of it.</summary>
    Stopped,

    /// <summary>The other side wants nothing more, whatever it is: nothing goes there until somebody says so.</summary>
    Gone,
}
