using System.Text.Json.Nodes;
using MimeKit;

namespace Sexton.Server.Tests.Support;

/// <summary>A message out of the mail stand-in's log.</summary>
internal sealed record Mail(string To, string Subject, string MessageId, string Text, string Html)
{
    /// <summary>What is attached to it: names and bytes.</summary>
    public IReadOnlyList<(string Name, byte[] Bytes)> Files { get; init; } = [];

    public static Mail Parse(JsonNode received)
    {
        using var stream = new MemoryStream(Convert.FromBase64String(received["raw"]!.GetValue<string>()));
        using var message = MimeMessage.Load(stream);
        return new Mail(
            message.To.Mailboxes.FirstOrDefault()?.Address ?? "",
            message.Subject ?? "",
            message.MessageId ?? "",
            message.TextBody ?? "",
            message.HtmlBody ?? ""
        )
        {
            Files = [.. message.Attachments.OfType<MimePart>().Select(static part => (part.FileName ?? "", BytesOf(part)))],
        };
    }

    /// <summary>The messages to an address, the oldest first, once there are so many.</summary>
    public static async Task<List<Mail>> ToAsync(World world, string address, int count = 1)
    {
        List<Mail> found = [];
        await World.UntilAsync(
            async () =>
            {
                found = [.. (await world.ReceivedAsync("mail/messages")).Select(static m => Parse(m!)).Where(m => m.To == address)];
                return found.Count >= count;
            },
            $"to {address}"
        );
        return found;
    }

    private static byte[] BytesOf(MimePart part)
    {
        using var content = new MemoryStream();
        part.Content!.DecodeTo(content);
        return content.ToArray();
    }
}
