using System.Buffers;

namespace Sexton.Core.Codes;

/// <summary>The item codes that a system takes: letters and digits of ASCII, and some other characters.</summary>
/// <param name="Longest">The greatest length in characters.</param>
/// <param name="Others">The other characters.</param>
public sealed record ItemCodeLimits(int Longest, string Others)
{
    /// <summary>What takes any code that is written in the printable characters of ASCII.</summary>
    public static readonly ItemCodeLimits Generous = new(1000, " !\"#$%&'()*+,-./:;<=>?@[\\]^_`{|}~");

    private readonly SearchValues<char> _taken = SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789" + Others
    );

    /// <summary>What is wrong with a code, or null.</summary>
    public string? Wrong(string code) =>
        code.Length > Longest ? $"has more than {Longest} characters"
        : code.AsSpan().IndexOfAnyExcept(_taken) is >= 0 and var at ? $"has the character “{code[at]}”"
        : null;

    /// <summary>Whether a code can have a character.</summary>
    public bool Takes(char letter) => _taken.Contains(letter);
}
