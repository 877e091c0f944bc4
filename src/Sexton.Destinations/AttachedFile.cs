using System.Text.Json;
using Sexton.Core.Values;

namespace Sexton.Destinations;

/// <summary>A file as a system is told of it: what it is, and the link by which it is fetched.</summary>
internal static class AttachedFile
{
    public static void Write(Utf8JsonWriter json, FileValue file, string link)
    {
        json.WriteStartObject();
        json.WriteString("name", file.Name);
        json.WriteNumber("size", file.Size);
        json.WriteString("sha256", file.Sha256);
        json.WriteString("link", link);
        json.WriteEndObject();
    }
}
