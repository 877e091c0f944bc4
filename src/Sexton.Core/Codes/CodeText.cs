using System.Globalization;
using System.Text;

namespace Sexton.Core.Codes;

/// <summary>An item code as it grows, on the stack as long as it is no longer than nearly all are.</summary>
internal ref struct CodeText(Span<char> room)
{
    /// <summary>Room for nearly every code; a longer one is made another way.</summary>
    public const int Usual = 128;

    private readonly Span<char> _room = room;
    private StringBuilder? _longer;
    private int _length;

    /// <summary>Adds a part that is not empty, behind its separator where something stands before it.</summary>
    public void Append(string separator, string part)
    {
        if (part.Length > 0)
        {
            Add(_length > 0 ? separator : "");
            Add(part);
        }
    }

    /// <summary>Adds a choice that was taken so many times: a number over 1 stands before it.</summary>
    public void Append(string separator, string part, int times)
    {
        if (times > 1 && part.Length > 0)
        {
            Append(separator, times.ToString(CultureInfo.InvariantCulture));
            Add(part);
        }
        else
        {
            Append(separator, part);
        }
    }

    public override readonly string ToString() => _longer?.ToString() ?? new string(_room[.._length]);

    private void Add(string text)
    {
        if (_longer is null && _length + text.Length > _room.Length)
        {
            _longer = new StringBuilder().Append(_room[.._length]);
        }

        if (_longer is not null)
        {
            _longer.Append(text);
        }
        else
        {
            text.CopyTo(_room[_length..]);
        }

        _length += text.Length;
    }
}
