using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>The blocks of one visit. They are returned when its answer is written.</summary>
internal sealed class RowLoans(QueryRunner runner) : IDisposable
{
    private RowBlock? _first;
    private List<RowBlock>? _more;

    public RowBlock Lend(int width)
    {
        var rows = runner.Take();
        rows.Reset(width);
        if (_first is null)
            _first = rows;
        else
            (_more ??= []).Add(rows);
        return rows;
    }

    public void Dispose()
    {
        if (_first is { } first)
            runner.GiveBack(first);
        _first = null;
        if (_more is null)
            return;
        foreach (var rows in _more)
            runner.GiveBack(rows);
        _more = null;
    }
}
