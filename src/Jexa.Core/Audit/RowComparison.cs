namespace Jexa.Core.Audit;

/// <summary>Says of which row of a list a page speaks. Facts that many rows share count little.</summary>
public sealed class RowComparison
{
    /// <summary>A page with this share of a row's facts is about that row.</summary>
    public const double Enough = 0.5;

    /// <summary>A page with less says nothing of the row.</summary>
    public const double Little = 0.25;

    /// <summary>Another row is meant if it has that much more.</summary>
    public const double Ahead = 0.2;

    private readonly IReadOnlyList<ListRow> _rows;
    private readonly Dictionary<string, double> _weights = [];

    /// <param name="rows">All rows of the list.</param>
    public RowComparison(IReadOnlyList<ListRow> rows)
    {
        _rows = rows;
        foreach (var facts in rows.SelectMany(row => row.Facts).GroupBy(fact => fact.Text))
        {
            var share = facts.Count() / (double)rows.Count;
            var isSmall = facts.First().Kind == FactKind.Number && facts.Key.Length <= 2;
            _weights[facts.Key] = rows.Count > 1 && share > 0.5 ? 0 : (1 - share) * (isSmall ? 0.3 : 1);
        }
    }

    /// <summary>Whether a row says enough that no other row says, so that a page can be told from another's.</summary>
    public bool CanTell(ListRow row) => row.Facts.Count(fact => _weights[fact.Text] >= 0.3) >= 2 || Sum(row) >= 1.2;

    /// <summary>The share of a row's facts that a page says, each by its weight; 0 to 1.</summary>
    public double Score(ListRow row, PageText page)
    {
        var all = Sum(row);
        return all <= 0 ? 0 : row.Facts.Where(page.Says).Sum(fact => _weights[fact.Text]) / all;
    }

    /// <summary>The row that a page speaks of most; null if of none.</summary>
    public (ListRow? Row, double Score) Best(PageText page)
    {
        var (best, most) = ((ListRow?)null, 0.0);
        foreach (var row in _rows)
        {
            var score = Score(row, page);
            if (score > most)
                (best, most) = (row, score);
        }

        return (best, most);
    }

    /// <summary>Whether a page speaks of so many rows that it is a list of them.</summary>
    public bool IsList(PageText page) => _rows.Where(CanTell).Count(row => Score(row, page) > 0.8) >= 3;

    private double Sum(ListRow row) => row.Facts.Sum(fact => _weights[fact.Text]);
}
