using Jexa.Core.Values;

namespace Jexa.Core.Sources;

/// <summary>A compiled query. Safe for concurrent use.</summary>
public interface IPreparedQuery
{
    /// <summary>Cells in each row.</summary>
    int Width { get; }

    /// <summary>What each cell of a row is called in traces.</summary>
    IReadOnlyList<string> ColumnNames { get; }

    /// <summary>The numbers of the cells that no trace may hold.</summary>
    IReadOnlyList<int> SecretCells => [];

    /// <summary>The same query where every change that was made is seen at once; itself where it is nowhere else.</summary>
    IPreparedQuery Latest => this;

    /// <summary>Appends the rows to a block that has been reset to <see cref="Width"/>.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    /// <exception cref="OperationCanceledException">The visitor left.</exception>
    ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>The query with its arguments, as it could be pasted into the engine's own shell. For traces only.</summary>
    string Shown(IReadOnlyList<TypedValue> arguments);
}
