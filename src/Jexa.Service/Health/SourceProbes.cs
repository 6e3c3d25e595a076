using System.Runtime.CompilerServices;
using Jexa.Core.Sources;

namespace Jexa.Service.Health;

/// <summary>
/// Asks sources whether they answer. Whoever asks while a source is being asked, or within a second of it, gets the same answer,
/// so that frequent questions cost a source nothing.
/// </summary>
public sealed class SourceProbes(TimeProvider clock)
{
    private static readonly TimeSpan GoodFor = TimeSpan.FromSeconds(1);

    private readonly ConditionalWeakTable<ISource, Look> _looks = [];

    public Task<SourceProbe> LookAsync(ISource source)
    {
        var look = _looks.GetOrCreateValue(source);
        lock (look)
        {
            if (look.Answer is null || (look.Answer.IsCompleted && clock.GetElapsedTime(look.At) > GoodFor))
                look.Answer = Task.Run(() => ProbeAsync(source, look));
            return look.Answer;
        }
    }

    private async Task<SourceProbe> ProbeAsync(ISource source, Look look)
    {
        var began = clock.GetTimestamp();
        SourceException? trouble = null;
        try
        {
            await source.ProbeAsync(CancellationToken.None);
        }
        catch (SourceException away)
        {
            trouble = away;
        }
        catch (ObjectDisposedException)
        {
            trouble = new SourceException(SourceTrouble.Away, "The service is ending.");
        }

        look.At = clock.GetTimestamp();
        return new SourceProbe(clock.GetElapsedTime(began, look.At), trouble);
    }

    private sealed class Look
    {
        public Task<SourceProbe>? Answer { get; set; }

        public long At { get; set; }
    }
}
