namespace Sexton.Destinations.Papers.Printing;

/// <summary>Makes PDFs of papers.</summary>
public interface IPaperPrinter
{
    /// <summary>Prints a paper.</summary>
    /// <param name="html">The paper: one document that needs nothing from outside.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>The PDF.</returns>
    /// <exception cref="PrintingException">It could not be printed now; the message says why, in a sentence.</exception>
    Task<byte[]> PrintAsync(string html, CancellationToken cancel);
}

/// <summary>A paper could not be printed now.</summary>
public sealed class PrintingException : Exception
{
    /// <summary>Says why.</summary>
    public PrintingException(string message)
        : base(message) { }

    /// <summary>Says why, and what caused it.</summary>
    public PrintingException(string message, Exception inner)
        : base(message, inner) { }
}
