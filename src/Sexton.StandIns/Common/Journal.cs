using System.Text.Encodings.Web;
using System.Text.Json;

namespace Sexton.StandIns.Common;

/// <summary>
/// What a stand-in received: a JSON document a line, appended and flushed before it is acknowledged, read again at the next start.
/// It is what tests judge from.
/// </summary>
/// <typeparam name="T">The entry.</typeparam>
public sealed class Journal<T> : IDisposable
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private readonly Lock _gate = new();
    private readonly List<T> _entries = [];
    private readonly StreamWriter _file;

    /// <summary>Opens the journal of a file, and reads what is in it.</summary>
    public Journal(string path)
    {
        if (File.Exists(path))
        {
            _entries.AddRange(
                File.ReadLines(path).Where(static l => l.Length > 0).Select(static l => JsonSerializer.Deserialize<T>(l, Options)!)
            );
        }

        _file = new StreamWriter(path, append: true) { AutoFlush = true };
    }

    /// <summary>The entries so far.</summary>
    public IReadOnlyList<T> Entries
    {
        get
        {
            lock (_gate)
            {
                return [.. _entries];
            }
        }
    }

    /// <summary>Adds an entry made from those before it, or finds that none is to be added.</summary>
    /// <param name="make">Gives the entry, or null for none.</param>
    public T? Add(Func<IReadOnlyList<T>, T?> make)
    {
        lock (_gate)
        {
            var entry = make(_entries);
            if (entry is not null)
            {
                _file.WriteLine(JsonSerializer.Serialize(entry, Options));
                _entries.Add(entry);
            }

            return entry;
        }
    }

    /// <inheritdoc/>
    public void Dispose() => _file.Dispose();
}
