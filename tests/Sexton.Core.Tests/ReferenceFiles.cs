using System.Text.Json.Nodes;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What the core decided, written to artifacts/reference for judges outside the project; see tests/e2e/reference.spec.ts.</summary>
internal static class ReferenceFiles
{
    public static void Write(string name, JsonNode content) => File.WriteAllText(PathOf(name), content.ToJsonString(DocumentJson.Options));

    /// <summary>The path of a file that is written line by line.</summary>
    public static string PathOf(string name) =>
        Path.Combine(Directory.CreateDirectory(Folder(Path.Combine("artifacts", "reference"))).FullName, name);

    /// <summary>The path of a folder of the repository.</summary>
    public static string Folder(string name)
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Sexton.slnx")))
        {
            folder = Path.GetDirectoryName(folder) ?? throw new InvalidOperationException("These tests run inside the repository.");
        }

        return Path.Combine(folder, name);
    }
}
