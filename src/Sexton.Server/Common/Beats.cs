namespace Sexton.Server.Common;

/// <summary>Long work that a server does beside the requests says by its beat that somebody is at it.</summary>
internal static class Beats
{
    /// <summary>How long a server may be silent before it counts as stopped; while it is at something it says so more often.</summary>
    public static readonly TimeSpan LongestSilence = TimeSpan.FromSeconds(30);
}
