using Sexton.Core.Values;
using Sexton.Data.Rows;

namespace Sexton.Server.Files;

/// <summary>A file as its uploader sees it.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Size">Its size in words.</param>
/// <param name="Small">Where its small picture is.</param>
internal sealed record UploadedFile(string Name, string Size, string Small)
{
    public static UploadedFile Of(FileRow file, string language) =>
        new(file.Name, FileValue.SizeText(file.Size, language), $"/api/shop/v1/files/{file.Id}/small");
}

/// <summary>A file as a page shows it.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Size">How many bytes it has.</param>
/// <param name="Sha256">The SHA-256 of its bytes.</param>
/// <param name="SizeText">Its size in words.</param>
/// <param name="Link">Where it is fetched.</param>
/// <param name="Small">Where its small picture is.</param>
internal sealed record FileView(string Name, long Size, string Sha256, string SizeText, string Link, string Small)
{
    /// <param name="file">The file.</param>
    /// <param name="page">The address below which the files are.</param>
    /// <param name="language">The language of whoever looks.</param>
    public static FileView Of(FileValue file, string page, string language) =>
        new(
            file.Name,
            file.Size,
            file.Sha256,
            FileValue.SizeText(file.Size, language),
            $"{page}/files/{file.Sha256}",
            $"{page}/files/{file.Sha256}/small"
        );
}
