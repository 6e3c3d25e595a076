namespace Jexa.Core.Audit;

/// <summary>Finds columns of a list whose values the records' pages take from other rows, though all else is right.</summary>
public sealed class FieldComparison(IReadOnlyList<ListRow> rows)
{
    /// <summary>That many pages must differ before a column is told of.</summary>
    private const int Enough = 3;

    private readonly Dictionary<int, List<(ListRow Row, Fact Other)>> _differences = [];

    /// <summary>Compares the page of a row, column by column.</summary>
    public void Add(ListRow row, PageText page)
    {
        for (var column = 0; column < row.Facts.Count; column++)
        {
            var own = row.Facts[column];
            if (page.Says(own) || !IsTelling(column))
                continue;
            var others = rows.Where(other => other.Facts.Count == row.Facts.Count)
                .Select(other => other.Facts[column])
                .Where(fact => fact.Text != own.Text && page.Says(fact))
                .DistinctBy(fact => fact.Text)
                .Take(2)
                .ToList();
            if (others.Count != 1)
                continue;
            if (!_differences.TryGetValue(column, out var met))
                _differences[column] = met = [];
            met.Add((row, others[0]));
        }
    }

    /// <summary>The columns that differ, each with the rows and what their pages say instead.</summary>
    public IEnumerable<IReadOnlyList<(ListRow Row, Fact Own, Fact Other)>> Differences =>
        _differences
            .Where(pair => pair.Value.Count >= Enough)
            .Select(pair =>
                (IReadOnlyList<(ListRow, Fact, Fact)>)[.. pair.Value.Select(met => (met.Row, met.Row.Facts[pair.Key], met.Other))]
            );

    /// <summary>Whether a column has many values, and hardly any is a short number that stands anywhere.</summary>
    private bool IsTelling(int column)
    {
        var values = rows.Where(row => row.Facts.Count > column).Select(row => row.Facts[column]).ToList();
        return values.Count(fact => fact.Kind == FactKind.Number && fact.Text.Length <= 2) <= values.Count / 4
            && values.Select(fact => fact.Text).Distinct().Count() > values.Count / 2;
    }
}
