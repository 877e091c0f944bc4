using System.Buffers;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.ObjectPool;
using Microsoft.Extensions.Options;
using Sexton.Server.Common;

namespace Sexton.Server.Shop;

/// <summary>
/// How replies with an evaluation are written: to the same JSON as everything else, but what makes up most of it straight, since a
/// shopper waits for it at every pause in typing.
/// </summary>
internal sealed class EvaluationWriting(IOptions<JsonOptions> json)
{
    private readonly JsonSerializerOptions _options = new(json.Value.SerializerOptions)
    {
        Converters =
        {
            new WrittenOnce(json.Value.SerializerOptions),
            new WrittenStraight<AskedView>(json.Value.SerializerOptions),
            new WrittenStraight<ProblemView>(json.Value.SerializerOptions),
        },
    };

    private readonly ObjectPool<Written> _buffers = ObjectPool.Create<Written>();

    /// <summary>Writes a reply that is kept as evidence, too.</summary>
    public byte[] Write<T>(T reply) => JsonSerializer.SerializeToUtf8Bytes(reply, _options);

    /// <summary>Writes a reply at once, into a buffer that is used again as soon as it was sent.</summary>
    public IResult Reply<T>(T reply)
    {
        var written = _buffers.Get();
        written.Write(reply, _options);
        return new Sending(written, _buffers);
    }

    private sealed class Sending(Written written, ObjectPool<Written> buffers) : IResult
    {
        public async Task ExecuteAsync(HttpContext httpContext)
        {
            var response = httpContext.Response;
            (response.ContentType, response.ContentLength) = (WrittenJson.ContentType, written.Bytes.Length);
            await response.Body.WriteAsync(written.Bytes, httpContext.RequestAborted);
            buffers.Return(written);
        }
    }

    private sealed class Written : IResettable, IDisposable
    {
        private const int MostKept = 1 << 20;

        private readonly ArrayBufferWriter<byte> _buffer = new();
        private Utf8JsonWriter? _writer;

        public ReadOnlyMemory<byte> Bytes => _buffer.WrittenMemory;

        public void Write<T>(T reply, JsonSerializerOptions options)
        {
            _writer ??= new Utf8JsonWriter(_buffer, new JsonWriterOptions { Encoder = options.Encoder, SkipValidation = true });
            JsonSerializer.Serialize(_writer, reply, options);
            _writer.Flush();
        }

        public bool TryReset()
        {
            _buffer.ResetWrittenCount();
            _writer!.Reset();
            return _buffer.Capacity <= MostKept;
        }

        public void Dispose() => _writer?.Dispose();
    }

    // The forms of fields are the same few in every reply.
    private sealed class WrittenOnce(JsonSerializerOptions plain) : JsonConverter<FormField>
    {
        private readonly ConditionalWeakTable<FormField, byte[]> _written = [];

        public override FormField Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            throw new NotSupportedException();

        public override void Write(Utf8JsonWriter writer, FormField value, JsonSerializerOptions options) =>
            writer.WriteRawValue(
                _written.GetValue(value, field => JsonSerializer.SerializeToUtf8Bytes(field, plain)),
                skipInputValidation: true
            );
    }

    private sealed class WrittenStraight<T>(JsonSerializerOptions plain) : JsonConverter<IEnumerable<T>>
    {
        public override IEnumerable<T> Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            throw new NotSupportedException();

        public override void Write(Utf8JsonWriter writer, IEnumerable<T> value, JsonSerializerOptions options) =>
            ((IWrittenStraight)value).Write(writer, plain);
    }
}

/// <summary>Views that write themselves to the very JSON that they would be written to one by one, without making any of them.</summary>
internal interface IWrittenStraight
{
    /// <summary>Writes all of them.</summary>
    /// <param name="writer">Where they are written.</param>
    /// <param name="options">How everything else is written.</param>
    void Write(Utf8JsonWriter writer, JsonSerializerOptions options);
}
