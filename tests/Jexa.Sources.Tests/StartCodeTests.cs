using Jexa.Service.Management;

namespace Jexa.Sources.Tests;

/// <summary>The codes of console URLs.</summary>
public class StartCodeTests
{
    [Fact]
    public void A_code_is_good_once_and_for_ten_minutes()
    {
        var clock = new SteppedClock();
        var codes = new StartCodes(clock);
        var (first, second, third) = (codes.Issue(), codes.Issue(), codes.Issue());
        Assert.True(codes.TrySpend(first));
        Assert.False(codes.TrySpend(first));
        clock.Now = TimeSpan.FromMinutes(9.9);
        Assert.True(codes.TrySpend(second));
        clock.Now = TimeSpan.FromMinutes(10.1);
        Assert.False(codes.TrySpend(third));
        var last = codes.Issue();
        codes.EndAll();
        Assert.False(codes.TrySpend(last));
    }

    private sealed class SteppedClock : TimeProvider
    {
        public TimeSpan Now { get; set; }

        public override long TimestampFrequency => TimeSpan.TicksPerSecond;

        public override long GetTimestamp() => Now.Ticks;
    }
}
