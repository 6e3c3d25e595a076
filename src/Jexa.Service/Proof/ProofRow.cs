namespace Jexa.Service.Proof;

/// <summary>What was tried on one page.</summary>
public sealed record ProofRow(string Page, IReadOnlyList<ProofCell> Cells)
{
    /// <summary>How many answers of a kind of case were looked at, and how many of them were wrong.</summary>
    public (int Tried, int Wrong) Of(string name)
    {
        var cells = Cells.Where(cell => cell.Case == name).ToList();
        return (cells.Count, cells.Count(cell => !cell.Holds));
    }
}
