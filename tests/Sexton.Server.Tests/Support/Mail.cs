using System.Text.Json.Nodes;
using MimeKit;

namespace Sexton.Server.Tests.Support;

/// <summary>A message out of the mail stand-in's log.</summary>
internal sealed record Mail(string To, string Subject, string MessageId, string Text, string Html)
{
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
        );
    }
}
