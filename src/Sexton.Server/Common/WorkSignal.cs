using System.Collections.Concurrent;
using System.Threading.Channels;

namespace Sexton.Server.Common;

/// <summary>Wakes the workers of this process; those of other processes poll.</summary>
internal sealed class WorkSignal
{
    private readonly ConcurrentDictionary<string, Bell> _bells = new(StringComparer.Ordinal);

    /// <summary>The bell that rings when there may be something to send to a destination.</summary>
    public Bell Of(string destination) => _bells.GetOrAdd(destination, static _ => new Bell());

    /// <summary>There may be something to send to any of them.</summary>
    public void Raise()
    {
        foreach (var bell in _bells.Values)
        {
            bell.Raise();
        }
    }

    /// <summary>A bell that rings once however often it was raised.</summary>
    internal sealed class Bell
    {
        private readonly Channel<bool> _channel = Channel.CreateBounded<bool>(
            new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite }
        );

        public void Raise() => _channel.Writer.TryWrite(true);

        /// <summary>Waits for the bell, at most so long.</summary>
        public async Task WaitAsync(TimeSpan most, CancellationToken cancel)
        {
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            limit.CancelAfter(most);
            try
            {
                await _channel.Reader.ReadAsync(limit.Token);
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                // Time to poll.
            }
        }
    }
}
