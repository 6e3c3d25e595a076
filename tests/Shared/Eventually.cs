namespace Jexa.Tests;

/// <summary>Waits for what is to become true.</summary>
internal static class Eventually
{
    public static async Task TrueAsync(Func<Task<bool>> isTrue, int seconds = 30)
    {
        for (var until = DateTime.UtcNow.AddSeconds(seconds); DateTime.UtcNow < until; await Task.Delay(50))
            if (await isTrue())
                return;
        Assert.Fail("It did not become true in time.");
    }
}
