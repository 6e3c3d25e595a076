using Jexa.Core.Bodies;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the bodies of compiled pages: by then it is known what each page shows.</summary>
internal sealed class BodyDesigns(
    AppDefinition app,
    IReadOnlyDictionary<string, PageHead?> pages,
    BodyLinks links,
    string mount,
    FindingList findings
)
{
    /// <summary>The body of a page; null if Jexa designs it, or its file cannot be read.</summary>
    public PageBody? Of(Page page)
    {
        if (links.Of(page.Head) is not { } document)
            return null;
        var context = Context(page, document, Root(page), Repeated(page));
        return BodyCompiler.Compile(context);
    }

    /// <summary>The design of a page whose table is not there yet; null if its file cannot be read.</summary>
    public PageBody? Sample(DesignedPage page)
    {
        if (links.Of(page.Head) is not { } document)
            return null;
        var context = Context(page, document, Root(page), new Dictionary<string, BodyScope>());
        return new BodySampler(context, Address).Sample(page.Table);
    }

    /// <summary>The address of a page that needs no record; null for others.</summary>
    private string? Address(string page) =>
        pages.GetValueOrDefault(page) is { AddressWithoutParameters: not null } head ? head.OpenAddress
        : app.Pages.FirstOrDefault(one => one.Name.Value == page) is { } said && !said.Path.Value.Contains('{')
            ? mount + said.Path.Value
        : null;

    /// <summary>The frame around all pages; null if Jexa designs it, or its file cannot be read.</summary>
    public FrameDesign? Frame(Written? named, string home, IReadOnlyList<PlainLink> menu)
    {
        if (named is null || links.Reader.Read(named) is not { } document)
            return null;
        var context = Context(null, document, new BodyScope("the frame", [], null, -1), new Dictionary<string, BodyScope>());
        return new FrameDesigner(context, app.Title.Value, home, menu).Design(named);
    }

    private BodyContext Context(
        Page? page,
        BodyDocument document,
        BodyScope root,
        IReadOnlyDictionary<string, BodyScope> repeated
    ) =>
        new()
        {
            Page = page,
            Document = document,
            Links = links,
            Pages = pages,
            App = app,
            Mount = mount,
            Findings = findings,
            Root = root,
            Repeated = repeated,
        };

    private static BodyScope Root(Page page) =>
        page switch
        {
            DetailPage detail => new BodyScope($"the page {page.Name}", detail.Shape.Fields, detail.Shape.Title, -1),
            DeletePage delete => new BodyScope($"the page {page.Name}", delete.Shape.Fields, delete.Shape.Title, -1),
            EditPage edit => new BodyScope($"the page {page.Name}", [], edit.Title, -1),
            _ => new BodyScope($"the page {page.Name}", [], null, -1),
        };

    private static Dictionary<string, BodyScope> Repeated(Page page)
    {
        var scopes = new Dictionary<string, BodyScope>();
        if (page is ListPage list)
            scopes[page.Record!.Name] = new BodyScope($"the page {page.Name}", list.Shape.Columns, list.Shape.Title, -1)
            {
                Shape = list.Shape,
            };
        if (page is DetailPage detail)
            foreach (var (block, number) in detail.Blocks.Select((block, number) => (block, number)))
                scopes[block.Name] = new BodyScope(
                    $"the block {block.Name}",
                    block.Shape.Rows?.Columns ?? [],
                    block.Shape.Rows?.Title,
                    number
                )
                {
                    Shape = block.Shape.Rows,
                };
        return scopes;
    }
}
