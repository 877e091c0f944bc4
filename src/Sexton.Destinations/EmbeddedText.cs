using System.Net;
using System.Reflection;

namespace Sexton.Destinations;

/// <summary>The templates, styles and scripts that stand beside the kinds, and how texts stand in them.</summary>
internal static class EmbeddedText
{
    /// <summary>A file by its place: "Email.html.hbs".</summary>
    /// <param name="place">Its folders and name, joined by points.</param>
    public static string Read(string place)
    {
        using var source = new StreamReader(Assembly.GetExecutingAssembly().GetManifestResourceStream("Sexton.Destinations." + place)!);
        return source.ReadToEnd();
    }

    /// <summary>The lines of a text in HTML.</summary>
    public static string Lines(string text) => string.Join("<br>", text.Split('\n').Select(WebUtility.HtmlEncode));
}
