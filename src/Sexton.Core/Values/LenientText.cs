using System.Text;
using System.Text.Json;

namespace Sexton.Core.Values;

/// <summary>
/// Reads a text of JSON as a browser wrote it. A browser's texts can hold half a character, which JSON can write and no text can have (RFC 8259, 8.2): U+FFFD
/// stands for it, so that the answer is refused by its field and not the whole page by a parser.
/// </summary>
internal static class LenientText
{
    /// <summary>The text, or the name of a member, at which a reader stands.</summary>
    public static string Read(ref Utf8JsonReader reader)
    {
        try
        {
            return reader.GetString()!;
        }
        catch (InvalidOperationException)
        {
            return Unescape(
                Encoding.UTF8.GetString(
                    reader.HasValueSequence ? System.Buffers.BuffersExtensions.ToArray(reader.ValueSequence) : reader.ValueSpan
                )
            );
        }
    }

    private static string Unescape(string escaped)
    {
        var text = new StringBuilder(escaped.Length);
        for (var i = 0; i < escaped.Length; i++)
        {
            if (escaped[i] != '\\')
            {
                text.Append(escaped[i]);
                continue;
            }

            i++;
            text.Append(
                escaped[i] switch
                {
                    'n' => '\n',
                    'r' => '\r',
                    't' => '\t',
                    'b' => '\b',
                    'f' => '\f',
                    'u' => (char)Convert.ToUInt16(escaped.Substring((i += 4) - 3, 4), 16),
                    var plain => plain,
                }
            );
        }

        return Encoding.Unicode.GetString(Encoding.Unicode.GetBytes(text.ToString()));
    }
}
