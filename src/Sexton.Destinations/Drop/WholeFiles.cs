using System.Security.Cryptography;
using Sexton.Core.Trail;
using Sexton.Destinations.Drop.Places;

namespace Sexton.Destinations.Drop;

/// <summary>
/// Puts files where they are fetched so that nobody ever finds a half of one: written under another name, read back, compared, and renamed. A name is given once: found
/// there with the same bytes it was dropped before, and with others it is not touched.
/// </summary>
internal static class WholeFiles
{
    /// <summary>Drops a file.</summary>
    /// <param name="place">The place.</param>
    /// <param name="name">Its name.</param>
    /// <param name="bytes">What stands in it.</param>
    /// <param name="mayBeThere">SHA-256 of what may be there already from a try before; null for nothing.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="IOException">The place is in trouble; the message says which.</exception>
    public static async Task<SendResult> DropAsync(
        IDropPlace place,
        string name,
        byte[] bytes,
        byte[]? mayBeThere,
        CancellationToken cancel
    )
    {
        if (await place.ReadAsync(name, cancel) is { } there)
        {
            return
                there.AsSpan().SequenceEqual(bytes) || (mayBeThere is not null && SHA256.HashData(there).AsSpan().SequenceEqual(mayBeThere))
                ? new SendResult(SendOutcome.Taken, $"It was there already as {name}, read back.", name, there)
                : new SendResult(
                    SendOutcome.Refused,
                    $"There is a file {name} with something else in it. Take it away, and send it again."
                );
        }

        var unfinished = $".{name}.part";
        try
        {
            await place.WriteAsync(unfinished, bytes, cancel);
            if (await place.ReadAsync(unfinished, cancel) is not { } written || !written.AsSpan().SequenceEqual(bytes))
            {
                await place.RemoveAsync(unfinished, cancel);
                return new SendResult(SendOutcome.NotTaken, "What was written there did not read back as it was sent.");
            }

            await place.RenameAsync(unfinished, name, cancel);
        }
        catch (IOException)
        {
            await TryRemoveAsync(place, unfinished, cancel);
            throw;
        }

        // Somebody may have fetched it by now: it was read back before it got its name.
        return new SendResult(
            SendOutcome.Taken,
            $"Dropped as {name} and read back.",
            name,
            await TryReadAsync(place, name, cancel) ?? bytes
        );
    }

    private static async Task TryRemoveAsync(IDropPlace place, string name, CancellationToken cancel)
    {
        try
        {
            await place.RemoveAsync(name, cancel);
        }
        catch (IOException)
        {
            // The next try writes over it.
        }
    }

    private static async Task<byte[]?> TryReadAsync(IDropPlace place, string name, CancellationToken cancel)
    {
        try
        {
            return await place.ReadAsync(name, cancel);
        }
        catch (IOException)
        {
            return null;
        }
    }
}
