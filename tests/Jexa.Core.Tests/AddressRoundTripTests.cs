using System.Text;
using CsCheck;
using Jexa.Core.Addresses;
using Jexa.Core.Values;

namespace Jexa.Core.Tests;

public class AddressRoundTripTests
{
    private static readonly string[] Templates =
    [
        "/d/{a}",
        "/{a}",
        "/d/{a}/x/{b}",
        "/d/p-{a}.html",
        "/d{?a}",
        "/d/{a}{?b}",
        "/løk/{a}/50%25{?b}",
    ];

    private static readonly Gen<string> AnyText = Gen.OneOf(
        Gen.String[Gen.Char["abcXYZ019-._~ /%+?#;&='\"<>:@!$()*,[]{}|\\^`øéß漢\u0301\u200d\u00a0\t\n"], 1, 30],
        Gen.Byte.Array[1, 30].Select(Encoding.UTF8.GetString),
        Gen.OneOf(
            ".",
            "..",
            "...",
            "%2e%2e",
            "%2F",
            "a/../b",
            "😀",
            "e\u0301",
            "é",
            "new",
            " ",
            "+",
            "%",
            "%00",
            "-",
            "p-",
            ".html"
        )
    );

    [Fact]
    public void What_is_built_is_matched_back_to_the_same_values() =>
        Gen.Select(Gen.OneOf(Templates), AnyText, AnyText)
            .Sample(
                (text, a, b) =>
                {
                    var (template, tree) = Tree(text);
                    var builder = new AddressBuilder(template);
                    using var address = new Utf8Buffer();
                    if (!builder.TryBuild(new Texts(a, b), address))
                        return address.Length == 0 && CannotBeCarried(a, b);

                    var target = RequestTarget.Read(address.ToString());
                    if (target.Fault != TargetFault.None || tree.Match(target, target.Segments.Length).Count != 1)
                        return false;
                    return template.Parameters.All(name => Value(target, template, name) == (name == "a" ? a : b));
                },
                iter: 20_000
            );

    [Fact]
    public void An_address_is_ASCII_and_begins_with_exactly_one_slash() =>
        Gen.Select(Gen.OneOf(Templates), AnyText, AnyText)
            .Sample(
                (text, a, b) =>
                {
                    using var address = new Utf8Buffer();
                    if (!new AddressBuilder(Tree(text).Template).TryBuild(new Texts(a, b), address))
                        return true;
                    var built = address.ToString();
                    return built[0] == '/'
                        && built[1] != '/'
                        && built.All(c => c is > ' ' and < '\x7f')
                        && built.AsSpan().IndexOfAny("\\\"<>#") < 0;
                }
            );

    [Theory]
    [InlineData("/d/{a}", "n/w-moor", "/d/n%2Fw-moor")]
    [InlineData("/d/{a}", "50%-common", "/d/50%25-common")]
    [InlineData("/d/{a}", "mill+weir", "/d/mill%2Bweir")]
    [InlineData("/d/{a}", "q?-hill", "/d/q%3F-hill")]
    [InlineData("/d/{a}", "high #3", "/d/high%20%233")]
    [InlineData("/d/{a}", "st-anne's", "/d/st-anne%27s")]
    [InlineData("/d/{a}", "e\u0301", "/d/e%CC%81")]
    [InlineData("/d/{a}", "é", "/d/%C3%A9")]
    [InlineData("/d{?a}", "a b&c=d", "/d?a=a%20b%26c%3Dd")]
    [InlineData("/d{?a}", "..", "/d?a=..")]
    [InlineData("/d/x{a}", "..", "/d/x..")]
    public void Everything_but_unreserved_characters_is_encoded_and_nothing_is_normalised(
        string template,
        string value,
        string expected
    )
    {
        using var address = new Utf8Buffer();
        Assert.True(new AddressBuilder(Tree(template).Template).TryBuild(new Texts(value, ""), address));
        Assert.Equal(expected, address.ToString());
    }

    [Theory]
    [InlineData("/d/{a}", "")]
    [InlineData("/d/{a}", ".")]
    [InlineData("/d/{a}", "..")]
    [InlineData("/d/.{a}", ".")]
    [InlineData("/d/{a}.", ".")]
    [InlineData("/d{?a}", "")]
    public void What_no_address_can_carry_is_refused(string template, string value)
    {
        using var address = new Utf8Buffer();
        address.Append("before"u8);
        Assert.False(new AddressBuilder(Tree(template).Template).TryBuild(new Texts(value, ""), address));
        Assert.Equal("before", address.ToString());
    }

    [Theory]
    [InlineData('a', 4096, true)]
    [InlineData('a', 4097, false)]
    [InlineData('%', 1365, true)]
    [InlineData('%', 1366, false)]
    public void An_ID_of_over_four_kilobytes_encoded_is_refused(char c, int count, bool fits)
    {
        using var address = new Utf8Buffer();
        Assert.Equal(fits, new AddressBuilder(Tree("/d/{a}").Template).TryBuild(new Texts(new string(c, count), ""), address));
    }

    [Fact]
    public void A_mount_stands_before_the_path()
    {
        using var address = new Utf8Buffer();
        Assert.True(new AddressBuilder(Tree("/d/{a}").Template, "/draft").TryBuild(new Texts("7", ""), address));
        Assert.Equal("/draft/d/7", address.ToString());
    }

    private static bool CannotBeCarried(string a, string b) =>
        new[] { a, b }.Any(text =>
            text.Length == 0 || text.Contains('\0') || text is "." or ".." || Encoding.UTF8.GetByteCount(text) > 1000
        );

    private static string? Value(RequestTarget target, PathTemplate template, string name)
    {
        for (var i = 0; i < template.Segments.Count; i++)
            if (template.Segments[i].Parameter == name)
                return target.Text(i)[template.Segments[i].Prefix.Length..^template.Segments[i].Suffix.Length].ToString();
        return target.Query.Single(pair => pair.Name == name).Value;
    }

    private static (PathTemplate Template, PathTree<string> Tree) Tree(string text)
    {
        var template = PathTemplate.Parse(text, [])!;
        var tree = new PathTree<string>();
        tree.Add(template, "page");
        return (template, tree);
    }

    private readonly struct Texts(string a, string b) : IParameterTexts
    {
        public bool TryWrite(int parameter, Utf8Buffer into)
        {
            into.Append(parameter == 0 ? a : b);
            return true;
        }
    }
}
