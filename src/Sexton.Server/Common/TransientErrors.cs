using System.Text.Json;

namespace Sexton.Server.Common;

/// <summary>Tells that a system outside did not answer, or not with what was asked for, from an error of our own.</summary>
internal static class TransientErrors
{
    /// <summary>Whether an exception of a call is one: refused, broken off, timed out or not readable, and not cancelled by us.</summary>
    public static bool IsTransient(Exception e, CancellationToken cancel) =>
        e is HttpRequestException or IOException or JsonException || (e is OperationCanceledException && !cancel.IsCancellationRequested);
}
