using Jexa.Core.Addresses;

namespace Jexa.Core.Tests;

public class PathTemplateTests
{
    /// <summary>The variables of RFC 6570, section 1.2 and section 3.2.</summary>
    private static readonly Dictionary<string, string> Variables = new()
    {
        ["var"] = "value",
        ["hello"] = "Hello World!",
        ["half"] = "50%",
        ["base"] = "http://example.com/home/",
        ["path"] = "/foo/bar",
        ["empty"] = "",
        ["x"] = "1024",
        ["y"] = "768",
        ["who"] = "fred",
        ["v"] = "6",
    };

    [Theory]
    // Section 1.2, level 1, and section 3.2.2: simple string expansion.
    [InlineData("/{var}", "/value")]
    [InlineData("/{hello}", "/Hello%20World%21")]
    [InlineData("/{half}", "/50%25")]
    [InlineData("/O{empty}X", "/OX")]
    [InlineData("/O{undef}X", "/OX")]
    [InlineData("/{base}", "/http%3A%2F%2Fexample.com%2Fhome%2F")]
    [InlineData("/{path}", "/%2Ffoo%2Fbar")]
    // Section 3.2.8: form-style query expansion.
    [InlineData("/a{?who}", "/a?who=fred")]
    [InlineData("/a{?half}", "/a?half=50%25")]
    [InlineData("/a{?x,y}", "/a?x=1024&y=768")]
    [InlineData("/a{?x,y,empty}", "/a?x=1024&y=768&empty=")]
    [InlineData("/a{?x,y,undef}", "/a?x=1024&y=768")]
    [InlineData("/a{?undef}", "/a")]
    public void It_expands_as_the_published_examples_of_RFC_6570_say(string template, string expected) =>
        Assert.Equal(expected, Parse(template).Expand(name => Variables.GetValueOrDefault(name)));

    [Theory]
    [InlineData("/", "/")]
    [InlineData("/bridges", "/bridges")]
    [InlineData("/bridges/st anne's", null)]
    [InlineData("/st-anne's", "/st-anne%27s")]
    [InlineData("/løkke", "/l%C3%B8kke")]
    [InlineData("/l%C3%B8kke", "/l%C3%B8kke")]
    [InlineData("/a%20b", "/a%20b")]
    [InlineData("/v1.2/x", "/v1.2/x")]
    public void Literals_may_be_written_plainly_or_percent_encoded(string template, string? expected)
    {
        var faults = new List<TemplateFault>();
        var parsed = PathTemplate.Parse(template, faults);
        Assert.Equal(expected, parsed?.Expand(_ => null));
        Assert.Equal(expected is null, faults.Count > 0);
    }

    [Theory]
    [InlineData("bridges", 0)]
    [InlineData("", 0)]
    [InlineData("/bridges/", 9)]
    [InlineData("//x", 1)]
    [InlineData("/a/../b", 3)]
    [InlineData("/a/%2e%2e", 3)]
    [InlineData("/a{b", 2)]
    [InlineData("/a}b", 1)]
    [InlineData("/{a}{b}", 4)]
    [InlineData("/{a}-{b}", 5)]
    [InlineData("/{}", 2)]
    [InlineData("/{a-b}", 2)]
    [InlineData("/{7}", 2)]
    [InlineData("/{+a}", 2)]
    [InlineData("/{/a}", 1)]
    [InlineData("/{a*}", 2)]
    [InlineData("/{a:3}", 2)]
    [InlineData("/a?b=1", 2)]
    [InlineData("/a#b", 2)]
    [InlineData("/a{?x}/b", 6)]
    [InlineData("/a{?x", 2)]
    [InlineData("/a{?x,}", 6)]
    [InlineData("/{id}/{id}", 7)]
    [InlineData("/a%zz", 2)]
    [InlineData("/a%2Fb", 2)]
    [InlineData("/_jexa/x", 1)]
    [InlineData("/bridges{?after}", 10)]
    [InlineData("/{order}", 2)]
    public void What_cannot_be_matched_is_refused_at_its_place(string template, int offset)
    {
        var faults = new List<TemplateFault>();
        Assert.Null(PathTemplate.Parse(template, faults));
        Assert.Contains(faults, fault => fault.Offset == offset);
        Assert.All(faults, fault => Assert.EndsWith(".", fault.Message));
    }

    [Fact]
    public void Parameters_are_those_of_the_path_then_those_of_the_query() =>
        Assert.Equal(["bridge", "number", "year"], Parse("/bridges/{bridge}/no-{number}.html{?year}").Parameters);

    [Theory]
    [InlineData("/a/{x}", "/a/{y}", true)]
    [InlineData("/a/{x}{?q}", "/a/{x}", true)]
    [InlineData("/a/{x}", "/a/x{x}", false)]
    [InlineData("/a/{x}", "/a/x", false)]
    [InlineData("/a", "/A", false)]
    [InlineData("/a", "/a/{x}", false)]
    public void Paths_are_shared_whatever_their_parameters_are_called(string a, string b, bool shared) =>
        Assert.Equal(shared, Parse(a).SharesPathWith(Parse(b)));

    private static PathTemplate Parse(string text)
    {
        var faults = new List<TemplateFault>();
        var template = PathTemplate.Parse(text, faults);
        Assert.True(template is not null, string.Join("; ", faults));
        return template;
    }
}
