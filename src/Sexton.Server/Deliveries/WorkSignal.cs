using System.Threading.Channels;

namespace Sexton.Server.Deliveries;

/// <summary>Wakes the workers of this process; those of other processes poll.</summary>
internal sealed class WorkSignal
{
    /// <summary>There may be a delivery to send.</summary>
    public Bell Deliveries { get; } = new();

    /// <summary>A bell that rings once however often it was raised.</summary>
    internal sealed class Bell
    {
        private readonly Channel<bool> _channel = Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite });

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
