using System.Text.RegularExpressions;

namespace Sexton.Core.Values;

/// <summary>The names of the shop's pictures: a file in its folder of pictures, never a path or an address.</summary>
public static partial class PictureName
{
    /// <summary>Whether a text is such a name: a to z, digits, - and _, with the ending svg, png, jpg or webp.</summary>
    public static bool IsValid(string name) => name.Length <= 80 && Pattern().IsMatch(name);

    [GeneratedRegex(@"^[a-z0-9_-]+\.(?:svg|png|jpg|webp)$", RegexOptions.NonBacktracking | RegexOptions.CultureInvariant)]
    private static partial Regex Pattern();
}
