using System.Text;
using MimeKit;

namespace Sexton.Destinations.Email;

/// <summary>What stands in headers and is to be read as it is, whatever it looks like.</summary>
internal static class PlainHeaders
{
    // With its frame, an encoded word has at most 75 characters (RFC 2047, section 2); four of them carry three bytes.
    private const int MostBytes = 45;

    /// <summary>Writes a subject as encoded words (RFC 2047) where a part of it looks like one itself.</summary>
    public static void EncodeSubject(MimeMessage message, string subject)
    {
        if (IsTakenForWords(subject))
        {
            var header = new Header(HeaderId.Subject, "");
            header.SetRawValue(Encoding.ASCII.GetBytes($" {string.Join("\r\n ", Words(subject))}\r\n"));
            message.Headers.Replace(header);
        }
    }

    /// <summary>
    /// Writes the name of the one recipient as encoded words (RFC 2047) where it looks like one itself: a library leaves it alone, and whoever reads the
    /// header would decode it.
    /// </summary>
    public static void EncodeRecipient(MimeMessage message, MailboxAddress recipient)
    {
        if (!IsTakenForWords(recipient.Name ?? ""))
        {
            return;
        }

        var header = new Header(HeaderId.To, "");
        header.SetRawValue(Encoding.ASCII.GetBytes($" {string.Join("\r\n ", Words(recipient.Name!))}\r\n <{recipient.Address}>\r\n"));
        message.Headers.Replace(header);
    }

    private static bool IsTakenForWords(string text) => text.Contains("=?", StringComparison.Ordinal);

    private static IEnumerable<string> Words(string name)
    {
        var piece = new List<byte>();
        foreach (var rune in name.EnumerateRunes())
        {
            var bytes = Encoding.UTF8.GetBytes(rune.ToString());
            if (piece.Count + bytes.Length > MostBytes)
            {
                yield return Word(piece);
                piece.Clear();
            }

            piece.AddRange(bytes);
        }

        yield return Word(piece);
    }

    private static string Word(List<byte> bytes) => $"=?utf-8?B?{Convert.ToBase64String([.. bytes])}?=";
}
