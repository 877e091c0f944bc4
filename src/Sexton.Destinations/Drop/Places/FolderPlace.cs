namespace Sexton.Destinations.Drop.Places;

/// <summary>A folder of this machine.</summary>
/// <param name="folder">Its path; it is made where there is none.</param>
public sealed class FolderPlace(string folder) : IDropPlace
{
    /// <inheritdoc/>
    public Task<byte[]?> ReadAsync(string name, CancellationToken cancel) =>
        Guarded(async () => File.Exists(PathOf(name)) ? await File.ReadAllBytesAsync(PathOf(name), cancel) : null);

    /// <inheritdoc/>
    public Task WriteAsync(string name, byte[] bytes, CancellationToken cancel) =>
        Guarded(async () =>
        {
            Directory.CreateDirectory(folder);
            await using var file = new FileStream(PathOf(name), FileMode.Create, FileAccess.Write, FileShare.None);
            await file.WriteAsync(bytes, cancel);

            // A name must not outlive a fall of the machine that its bytes did not.
            file.Flush(flushToDisk: true);
            return true;
        });

    /// <inheritdoc/>
    public Task RenameAsync(string from, string to, CancellationToken cancel) =>
        Guarded(() =>
        {
            File.Move(PathOf(from), PathOf(to), overwrite: false);
            return Task.FromResult(true);
        });

    /// <inheritdoc/>
    public Task RemoveAsync(string name, CancellationToken cancel) =>
        Guarded(() =>
        {
            File.Delete(PathOf(name));
            return Task.FromResult(true);
        });

    /// <inheritdoc/>
    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private string PathOf(string name) => Path.Combine(folder, name);

    private static async Task<T> Guarded<T>(Func<Task<T>> work)
    {
        try
        {
            return await work();
        }
        catch (DirectoryNotFoundException e)
        {
            throw new IOException(e.Message, e);
        }
        catch (UnauthorizedAccessException e)
        {
            throw new IOException(e.Message, e);
        }
    }
}
