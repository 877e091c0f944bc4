using System.Buffers;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace Sexton.Server.Shop;

/// <summary>One value of JSON, put together from parts that are written already. Used by one thread, to its end, before the next.</summary>
internal ref struct JsonParts
{
    private const int MostKept = 1 << 20;

    // RFC 8259, section 7; the library's encoders escape more, such as each emoji, which costs more than all else.
    private static readonly SearchValues<char> Escaped = SearchValues.Create([
        '"',
        '\\',
        .. Enumerable.Range(0, 0x20).Select(static c => (char)c),
    ]);

    [ThreadStatic]
    private static byte[]? _kept;

    private byte[] _bytes = _kept ?? new byte[1 << 16];
    private int _length;

    public JsonParts() { }

    /// <summary>Adds a part as it stands.</summary>
    public void Add(ReadOnlySpan<byte> part)
    {
        MakeRoom(part.Length);
        part.CopyTo(_bytes.AsSpan(_length));
        _length += part.Length;
    }

    /// <summary>Adds a text with its quotation marks; null as null.</summary>
    public void AddText(string? text)
    {
        if (text is null)
        {
            Add("null"u8);
            return;
        }

        if (text.AsSpan().ContainsAny(Escaped))
        {
            Add(Written(text));
            return;
        }

        MakeRoom(Encoding.UTF8.GetMaxByteCount(text.Length) + 2);
        _bytes[_length++] = (byte)'"';
        _length += Encoding.UTF8.GetBytes(text, _bytes.AsSpan(_length));
        _bytes[_length++] = (byte)'"';
    }

    /// <summary>Writes what was added. Nothing is added after it.</summary>
    public void WriteTo(Utf8JsonWriter writer)
    {
        writer.WriteRawValue(_bytes.AsSpan(0, _length), skipInputValidation: true);
        _kept = _bytes.Length <= MostKept ? _bytes : null;
    }

    /// <summary>A text with its quotation marks, to be added often.</summary>
    public static byte[] Written(string text) =>
        [(byte)'"', .. JsonEncodedText.Encode(text, JavaScriptEncoder.UnsafeRelaxedJsonEscaping).EncodedUtf8Bytes, (byte)'"'];

    private void MakeRoom(int more)
    {
        if (_bytes.Length - _length < more)
        {
            Array.Resize(ref _bytes, Math.Max(_bytes.Length * 2, _length + more));
        }
    }
}
