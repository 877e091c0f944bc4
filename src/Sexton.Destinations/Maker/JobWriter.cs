using System.Text.Encodings.Web;
using System.Text.Json;
using Sexton.Core.Orders;
using Sexton.Core.Projections;

namespace Sexton.Destinations.Maker;

/// <summary>
/// Writes a line as a job: what is to be made, how many, and the answers under the names that they have there; those of the order and of single pieces apart.
/// </summary>
/// <param name="json">Where it is written.</param>
/// <param name="order">The order, of which one line goes.</param>
/// <param name="linkToFile">The link to a file of an order, by the SHA-256 of the file.</param>
internal sealed class JobWriter(Utf8JsonWriter json, SentOrder order, Func<Guid, string, string> linkToFile)
{
    /// <summary>The member in which the answers of the order, the line or a piece stand.</summary>
    public const string Answers = "answers",
        Order = "order",
        Pieces = "pieces",
        Piece = "piece",
        Files = "files",
        Rest = "remark";

    private static readonly JsonWriterOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static byte[] Write(SentOrder order, Func<Guid, string, string> linkToFile)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes, Options))
        {
            new JobWriter(json, order, linkToFile).WriteJob(order.Lines.Single());
        }

        return bytes.ToArray();
    }

    private void WriteJob(OrderLine line)
    {
        json.WriteStartObject();
        json.WriteString("job", $"{order.Number}-{order.LineNumbers[line.Id]}");
        json.WriteString("reference", $"{order.Id:N}.{line.Id}");
        json.WriteString("code", order.ItemCodeOf(line));
        json.WriteString("description", line.ProductName);
        json.WriteNumber("count", line.Quantity);
        WriteAnswers([.. order.Projection.Of(line.Id)]);
        json.WriteStartObject(Order);
        WriteAnswers([.. order.Projection.Of(null)]);
        json.WriteEndObject();
        json.WriteStartArray(Pieces);
        foreach (var unit in line.Units)
        {
            json.WriteStartObject();
            json.WriteString(Piece, unit);
            json.WriteString("name", line.NameOf(unit, order.Content.Language));
            WriteAnswers([.. order.Projection.Of(line.Id, unit)]);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    private void WriteAnswers(IReadOnlyList<Entry> entries)
    {
        SameNames.Refuse(entries);
        json.WriteStartObject(Answers);
        foreach (var entry in entries.Where(static e => e.Files.IsEmpty))
        {
            json.WriteString(entry.Name, entry.Text);
        }

        json.WriteEndObject();
        if (Remark.Write(entries) is { Length: > 0 } remark)
        {
            json.WriteString(Rest, remark);
        }

        json.WriteStartObject(Files);
        foreach (var entry in entries.Where(static e => !e.Files.IsEmpty))
        {
            json.WriteStartArray(entry.Name);
            foreach (var file in entry.Files)
            {
                AttachedFile.Write(json, file, linkToFile(order.Id, file.Sha256));
            }

            json.WriteEndArray();
        }

        json.WriteEndObject();
    }
}
