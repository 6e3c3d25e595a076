using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles what a detail page reads of the previous and next record.</summary>
internal static class NeighbourCompiler
{
    public static NeighbourPlan Compile(DetailPage page, ListPlan list)
    {
        // The joins of the list keep their numbers, so that its conditions and order keep their meaning.
        var load = new Projections(list.Record, list.Joins);
        var label = load.Label(list.Record, 0);
        var link = LinkCompiler.ToOwn(page.Head, load, "");
        return new NeighbourPlan(load.Columns, load.Joins, label, link);
    }
}
