namespace Sexton.Destinations.Drop.Places;

/// <summary>A folder into which files are dropped. Whatever goes wrong there is an <see cref="IOException"/> whose message says it.</summary>
public interface IDropPlace : IAsyncDisposable
{
    /// <summary>The bytes of a file; null where there is none of that name.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="cancel">Cancels.</param>
    Task<byte[]?> ReadAsync(string name, CancellationToken cancel);

    /// <summary>Writes a file, in place of one of that name, and returns when the other side has all of it.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="bytes">What stands in it.</param>
    /// <param name="cancel">Cancels.</param>
    Task WriteAsync(string name, byte[] bytes, CancellationToken cancel);

    /// <summary>Gives a file another name, in one step; never in place of another.</summary>
    /// <param name="from">Its name.</param>
    /// <param name="to">The other.</param>
    /// <param name="cancel">Cancels.</param>
    Task RenameAsync(string from, string to, CancellationToken cancel);

    /// <summary>Takes a file away; nothing where there is none.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="cancel">Cancels.</param>
    Task RemoveAsync(string name, CancellationToken cancel);
}

/// <summary>Opens the places where files are dropped.</summary>
public interface IDropPlaces
{
    /// <summary>Opens a folder.</summary>
    /// <param name="connection">The key of the connection by which it is reached; null for a folder of the installation.</param>
    /// <param name="folder">Its path there.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="IOException">It cannot be reached; the message says why.</exception>
    Task<IDropPlace> OpenAsync(string? connection, string folder, CancellationToken cancel);
}
