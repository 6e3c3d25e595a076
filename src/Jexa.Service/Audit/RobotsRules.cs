namespace Jexa.Service.Audit;

/// <summary>What an application's robots.txt (RFC 9309) forbids.</summary>
internal sealed class RobotsRules
{
    /// <summary>The trouble of an address that it forbids.</summary>
    public const string IsForbidden = "robots.txt forbids it";

    private readonly List<string> _forbidden = [];
    private int _withheld;

    /// <summary>Addresses that were not asked for.</summary>
    public int Withheld => Volatile.Read(ref _withheld);

    /// <summary>Reads the file.</summary>
    public void Read(string robots)
    {
        var (applies, wasAgent) = (false, false);
        foreach (var line in robots.Split('\n').Select(line => line.Split('#')[0].Trim()).Where(line => line.Contains(':')))
        {
            var (key, value) = (line[..line.IndexOf(':')].Trim().ToLowerInvariant(), line[(line.IndexOf(':') + 1)..].Trim());
            if (key == "user-agent")
            {
                applies = (wasAgent && applies) || value == "*" || value.StartsWith("jexa", StringComparison.OrdinalIgnoreCase);
                wasAgent = true;
                continue;
            }

            wasAgent = false;
            if (applies && key == "disallow" && value.Length > 0)
                _forbidden.Add(value.TrimEnd('*', '$'));
        }
    }

    /// <summary>Whether an address must not be asked for; counts it.</summary>
    public bool Forbids(Uri address)
    {
        if (!_forbidden.Exists(rule => address.PathAndQuery.StartsWith(rule, StringComparison.Ordinal)))
            return false;
        Interlocked.Increment(ref _withheld);
        return true;
    }
}
