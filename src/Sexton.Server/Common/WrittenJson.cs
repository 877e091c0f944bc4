namespace Sexton.Server.Common;

/// <summary>A reply of JSON that is written already, so that what is kept of it is what was sent.</summary>
internal static class WrittenJson
{
    public const string ContentType = "application/json; charset=utf-8";

    public static IResult Reply(byte[] written) => Results.Bytes(written, ContentType);
}
