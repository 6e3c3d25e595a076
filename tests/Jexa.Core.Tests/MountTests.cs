using Jexa.Core.Addresses;

namespace Jexa.Core.Tests;

public class MountTests
{
    [Theory]
    [InlineData("", "")]
    [InlineData("/", "")]
    [InlineData("/a", "/a")]
    [InlineData("/a/b.c/", "/a/b.c")]
    public void A_prefix_is_read_with_or_without_a_slash_behind_it(string text, string mount) =>
        Assert.Equal(mount, Mount.Parse(text)?.Text);

    [Theory]
    [InlineData("a")]
    [InlineData("//")]
    [InlineData("/a//b")]
    [InlineData("/..")]
    [InlineData("/a/./b")]
    [InlineData("/a b")]
    [InlineData("/%41")]
    [InlineData("/ø")]
    [InlineData("/a?b")]
    [InlineData("http://h/a")]
    public void What_is_no_prefix_is_refused(string text) => Assert.Null(Mount.Parse(text));

    [Theory]
    [InlineData("/a/b/bridges/7?x=1", "bridges|7", "/bridges/7", "?x=1")]
    [InlineData("/a/%62/bridges/", "bridges|", "/bridges/", "")]
    [InlineData("/a/b/", "", "/", "")]
    [InlineData("/a/b", "", "", "")]
    [InlineData("/a/b?x", "", "", "?x")]
    [InlineData("http://h/a/b/c%2Fd", "c/d", "/c%2Fd", "")]
    [InlineData("/a/b//c", "|c", "//c", "")]
    public void What_stands_below_the_prefix_is_read_as_if_it_stood_alone(string raw, string segments, string path, string query)
    {
        var target = RequestTarget.Read(raw, Mount.Parse("/a/b")!);
        Assert.Equal(TargetFault.None, target.Fault);
        Assert.Equal(
            segments,
            string.Join('|', Enumerable.Range(0, target.Segments.Length).Select(i => target.Text(i).ToString()))
        );
        Assert.Equal((path, query), (target.Path.ToString(), target.QueryString.ToString()));
    }

    [Theory]
    [InlineData("/")]
    [InlineData("/a")]
    [InlineData("/a/")]
    [InlineData("/a/bb")]
    [InlineData("/A/b/c")]
    [InlineData("/a%2Fb/c")]
    [InlineData("/a/%ff/c")]
    public void What_does_not_is_outside(string raw) =>
        Assert.Equal(TargetFault.OutsideMount, RequestTarget.Read(raw, Mount.Parse("/a/b")!).Fault);
}
