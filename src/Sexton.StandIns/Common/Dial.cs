namespace Sexton.StandIns.Common;

/// <summary>The fault dial of a stand-in: how it misbehaves just now.</summary>
public sealed record DialSetting
{
    /// <summary>Refuses every connection or request.</summary>
    public bool Down { get; init; }

    /// <summary>Milliseconds that it waits before it answers.</summary>
    public int SlowMs { get; init; }

    /// <summary>The share of requests, from 0 to 1, that it answers with an error without doing anything.</summary>
    public double ErrorRate { get; init; }

    /// <summary>The share of requests, from 0 to 1, that it carries out and then does not acknowledge.</summary>
    public double LostRate { get; init; }

    /// <summary>The share of messages, from 0 to 1, whose recipient is refused at the door; only mail knows recipients.</summary>
    public double RefusedRate { get; init; }

    /// <summary>The share of messages, from 0 to 1, that are taken and come back; only mail does.</summary>
    public double ReturnedRate { get; init; }

    /// <summary>Says that it wants nothing more, for good; only who is told events does.</summary>
    public bool Gone { get; init; }

    /// <summary>Silently keeps only so many characters of a text; 0 keeps all.</summary>
    public int ShortensTo { get; init; }
}

/// <summary>The dial of one stand-in, turned while it runs.</summary>
public sealed class Dial
{
    private volatile DialSetting _now = new();

    /// <summary>How it is set.</summary>
    public DialSetting Now
    {
        get => _now;
        set => _now = value;
    }

    /// <summary>Whether this request is to fail without being carried out.</summary>
    public bool Fails() => Random.Shared.NextDouble() < Now.ErrorRate;

    /// <summary>Whether this request is to be carried out and its acknowledgement lost.</summary>
    public bool Loses() => Random.Shared.NextDouble() < Now.LostRate;

    /// <summary>Whether this recipient is to be refused.</summary>
    public bool Refuses() => Random.Shared.NextDouble() < Now.RefusedRate;

    /// <summary>Whether this message is to come back.</summary>
    public bool Returns() => Random.Shared.NextDouble() < Now.ReturnedRate;

    /// <summary>A text as it is kept.</summary>
    public string Keep(string text) => Now.ShortensTo > 0 && text.Length > Now.ShortensTo ? text[..Now.ShortensTo] : text;
}
