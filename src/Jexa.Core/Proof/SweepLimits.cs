namespace Jexa.Core.Proof;

/// <summary>How much a sweep reads, and how fast.</summary>
public sealed record SweepLimits
{
    private readonly int _window = 5000;

    /// <summary>The most examples of each fault.</summary>
    public int Examples { get; init; } = 5;

    /// <summary>The rows that one query reads.</summary>
    public int Window
    {
        get => (int)Math.Min(_window, Rows ?? _window);
        init => _window = value;
    }

    /// <summary>The most rows a second, so that a live database has time for others; null for no limit.</summary>
    public int? RowsPerSecond { get; init; }

    /// <summary>It stops after this time, and says that it has not seen all; null for no limit.</summary>
    public TimeSpan? Within { get; init; }

    /// <summary>The most rows of each part; null for all.</summary>
    public long? Rows { get; init; }

    /// <summary>The records to choose, by chance, to be asked for from the running service.</summary>
    public int Fetch { get; init; }

    /// <summary>Only the parts of these pages and record kinds; empty for all.</summary>
    public IReadOnlySet<string> Only { get; init; } = new HashSet<string>();

    /// <summary>
    /// The same with so many rows a second. A slow sweep reads little at once, so that the source is never busy for long.
    /// </summary>
    public SweepLimits At(int? rate) => this with { RowsPerSecond = rate, Window = Math.Min(Window, rate ?? Window) };

    /// <summary>What must be the same for a sweep to go on where another ended.</summary>
    public string Settings => $"{Examples} {Rows} {string.Join(',', Only.Order(StringComparer.Ordinal))}";
}
