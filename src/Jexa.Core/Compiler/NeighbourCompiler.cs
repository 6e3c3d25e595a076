using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles what a detail page reads of the records before and behind its own.</summary>
internal static class NeighbourCompiler
{
    public static NeighbourPlan Compile(DetailPage page, ListPlan list)
    {
        // Joins of the list stay in their places, so that its conditions and order keep their meaning.
        var load = new Projections(list.Record, list.Joins);
        var label = load.Label(list.Record, 0);
        var link = LinkCompiler.ToOwn(page.Head, load, "");
        return new NeighbourPlan(load.Columns, load.Joins, label, link);
    }
}
