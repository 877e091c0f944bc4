using System.Text.Json;
using Sexton.Core.Orders;
using Sexton.Core.Values;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Data.Placing;

/// <summary>What an attempt froze, as it lies in its row.</summary>
public static class AttemptContent
{
    private const string Purpose = "attempt";

    /// <summary>Seals it.</summary>
    public static byte[] Seal(OrderContent content, DataKey key) =>
        key.SealPacked(JsonSerializer.SerializeToUtf8Bytes(content, DocumentJson.Options), Purpose);

    /// <summary>Opens it.</summary>
    public static OrderContent Open(AttemptRow attempt, DataKey key) =>
        JsonSerializer.Deserialize<OrderContent>(key.Open(attempt.Content, Purpose), DocumentJson.Options)!;
}
