using Jexa.Core.Addresses;

namespace Jexa.Core.Tests;

public class PathTreeTests
{
    [Theory]
    [InlineData("/bridges", "bridges")]
    [InlineData("/bridges/7", "bridge")]
    [InlineData("/bridges/new", "new")]
    [InlineData("/bridges/7/spans/2", "span")]
    [InlineData("/bridges/new/spans/2", "span")]
    [InlineData("/bridges/7.html", "html")]
    [InlineData("/bridges/no-7.html", "numbered")]
    [InlineData("/bridges/no-7", "prefixed")]
    [InlineData("/bridges/%6eew", "new")]
    [InlineData("/Bridges", null)]
    [InlineData("/bridges/7/spans", null)]
    [InlineData("/bridges/", "bridge")]
    [InlineData("/bridges/%zz", "bridge")]
    [InlineData("/%zz", null)]
    [InlineData("/", null)]
    [InlineData("//", null)]
    public void A_literal_goes_before_a_prefix_and_a_prefix_before_a_bare_parameter(string address, string? page)
    {
        var pages = new[]
        {
            ("/bridges", "bridges"),
            ("/bridges/{id}", "bridge"),
            ("/bridges/{id}.html", "html"),
            ("/bridges/no-{id}", "prefixed"),
            ("/bridges/no-{id}.html", "numbered"),
            ("/bridges/new", "new"),
            ("/bridges/{bridge}/spans/{number}", "span"),
        };
        foreach (var order in new[] { pages, [.. pages.Reverse()] })
        {
            var tree = new PathTree<string>();
            foreach (var (path, name) in order)
                tree.Add(PathTemplate.Parse(path, [])!, name);
            var target = RequestTarget.Read(address);
            Assert.Equal(page, tree.Match(target, target.Segments.Length).SingleOrDefault());
        }
    }

    [Fact]
    public void Pages_that_share_a_path_are_found_together()
    {
        var tree = new PathTree<string>();
        tree.Add(PathTemplate.Parse("/a{?x}", [])!, "one");
        tree.Add(PathTemplate.Parse("/a{?y}", [])!, "two");
        Assert.Equal(["one", "two"], tree.Match(RequestTarget.Read("/a?y=1"), 1));
    }

    [Fact]
    public void Matching_allocates_nothing()
    {
        var tree = new PathTree<string>();
        for (var i = 0; i < 1000; i++)
            tree.Add(PathTemplate.Parse($"/page{i}/{{id}}", [])!, $"page{i}");
        var target = RequestTarget.Read("/page500/7");
        tree.Match(target, 2);
        var before = GC.GetAllocatedBytesForCurrentThread();
        for (var i = 0; i < 1000; i++)
            tree.Match(target, 2);
        Assert.Equal(0, GC.GetAllocatedBytesForCurrentThread() - before);
    }
}
