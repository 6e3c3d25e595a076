using Jexa.Core.Values;

namespace Jexa.Core.Sources;

/// <summary>A compiled query. Safe for concurrent use.</summary>
public interface IPreparedQuery
{
    /// <summary>The number of cells in each row.</summary>
    int Width { get; }

    /// <summary>The name of each cell in traces.</summary>
    IReadOnlyList<string> ColumnNames { get; }

    /// <summary>The numbers of the cells that traces must not contain.</summary>
    IReadOnlyList<int> SecretCells => [];

    /// <summary>
    /// The same query, run where all changes are visible at once. It is this query itself if there is no replica.
    /// </summary>
    IPreparedQuery Latest => this;

    /// <summary>Appends the rows to a block that was reset to <see cref="Width"/>.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    /// <exception cref="OperationCanceledException">The visitor left.</exception>
    ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>How the source would run it, in the engine's own words, one line for each step; null if the source does not
    /// tell. Does not run it.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    ValueTask<IReadOnlyList<string>?> ExplainAsync(IReadOnlyList<TypedValue> arguments, CancellationToken cancellation) =>
        ValueTask.FromResult<IReadOnlyList<string>?>(null);

    /// <summary>The query with its arguments, ready to paste into the engine's own shell. For traces only.</summary>
    string Shown(IReadOnlyList<TypedValue> arguments);
}
