using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>The pieces of a list's HTML that are the same for every visit.</summary>
/// <param name="OpenCells">What opens a cell of each column: the end of the cell before in all but the first.</param>
/// <param name="Quiet">Whether a column's link leads where a better one of the row leads: then it is for the pointer
/// alone.</param>
/// <param name="Headings">Each column's label, encoded.</param>
/// <param name="Main">The column that cards and bullets begin with.</param>
internal sealed record ListParts(byte[][] OpenCells, bool[] Quiet, byte[][] Headings, ViewColumn[] Columns, int Main);
