using System.Text;

namespace Sexton.StandIns.Mail;

/// <summary>A report that a message could not be delivered (RFC 3464, in the multipart of RFC 6522).</summary>
internal static class ReturnReport
{
    public static string Write(string from, IReadOnlyList<string> to)
    {
        var report = new StringBuilder()
            .Append("From: Mail system <postmaster@standin.example>\r\n")
            .Append($"To: <{from}>\r\n")
            .Append("Subject: Could not be delivered\r\n")
            .Append("MIME-Version: 1.0\r\n")
            .Append("Content-Type: multipart/report; report-type=delivery-status; boundary=\"part\"\r\n\r\n")
            .Append("--part\r\nContent-Type: text/plain\r\n\r\nNobody of that name lives here.\r\n")
            .Append("--part\r\nContent-Type: message/delivery-status\r\n\r\nReporting-MTA: dns; standin.example\r\n");
        foreach (var recipient in to)
        {
            report
                .Append($"\r\nFinal-Recipient: rfc822; {recipient}\r\n")
                .Append("Action: failed\r\nStatus: 5.1.1\r\nDiagnostic-Code: smtp; 550 5.1.1 No such mailbox\r\n");
        }

        return report.Append("\r\n--part--\r\n").ToString();
    }
}
