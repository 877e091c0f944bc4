using System.Text;
using MimeKit;

namespace Sexton.Destinations.ShopperEmail;

/// <summary>Names in address headers that are to be read as they are, whatever they look like.</summary>
internal static class PlainNames
{
    // With its frame, an encoded word has at most 75 characters (RFC 2047, section 2); four of them carry three bytes.
    private const int MostBytes = 45;

    /// <summary>
    /// Writes the name of the one recipient as encoded words (RFC 2047) where it looks like one itself: a library leaves it alone, and whoever reads the
    /// header would decode it.
    /// </summary>
    public static void EncodeRecipient(MimeMessage message, MailboxAddress recipient)
    {
        if (recipient.Name?.Contains("=?", StringComparison.Ordinal) != true)
        {
            return;
        }

        var header = new Header(HeaderId.To, "");
        header.SetRawValue(Encoding.ASCII.GetBytes($" {string.Join("\r\n ", Words(recipient.Name))}\r\n <{recipient.Address}>\r\n"));
        message.Headers.Replace(header);
    }

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
