using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>The pieces of a list's HTML that are the same for every visit.</summary>
/// <param name="OpenCells">The opening of a cell in each column. From the second column on it closes the cell before.</param>
/// <param name="Quiet">
/// Whether a column's link leads where a better link of the row leads. It is then only for the pointer.
/// </param>
/// <param name="Headings">Each column's label, encoded.</param>
/// <param name="Main">The column at the beginning of cards and bullets.</param>
internal sealed record ListParts(byte[][] OpenCells, bool[] Quiet, byte[][] Headings, ViewColumn[] Columns, int Main);
