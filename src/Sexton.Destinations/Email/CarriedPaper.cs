namespace Sexton.Destinations.Email;

/// <summary>A paper that a message carries.</summary>
/// <param name="Title">What people call it.</param>
/// <param name="FileName">Under which name it is attached.</param>
/// <param name="Link">Where it is opened, once it is printed.</param>
public sealed record CarriedPaper(string Title, string FileName, string Link)
{
    /// <summary>How it goes.</summary>
    public PaperGoes Goes { get; init; }

    /// <summary>The file, where it is attached; null where it is only looked at, and nothing was printed.</summary>
    public byte[]? File { get; init; }
}

/// <summary>How a paper goes with a message.</summary>
public enum PaperGoes
{
    /// <summary>In it.</summary>
    Attached,

    /// <summary>As a link, since that is how it is to go.</summary>
    Linked,

    /// <summary>As a link that will lead there: it was not printed in time.</summary>
    Late,
}
