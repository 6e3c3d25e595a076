using System.Text;
using CsCheck;
using Jexa.Core.Addresses;

namespace Jexa.Core.Tests;

public class RequestTargetTests
{
    [Theory]
    [InlineData("/")]
    [InlineData("/?x=1")]
    [InlineData("http://host:1/")]
    public void The_root_path_has_no_segments(string raw)
    {
        var target = RequestTarget.Read(raw);
        Assert.Equal(TargetFault.None, target.Fault);
        Assert.Equal(0, target.Segments.Length);
    }

    [Theory]
    [InlineData("/bridges/7", "bridges|7")]
    [InlineData("/bridges/", "bridges|")]
    [InlineData("//", "|")]
    [InlineData("/a%2Fb/c", "a/b|c")]
    [InlineData("/a%252Fb", "a%2Fb")]
    [InlineData("/%3F%23%5C", "?#\\")]
    [InlineData("/l%C3%B8kke", "løkke")]
    [InlineData("/a+b", "a+b")]
    [InlineData("/a+b%20c", "a+b c")]
    [InlineData("/a;v=1", "a;v=1")]
    [InlineData("/%20x", " x")]
    [InlineData("/.../x", "...|x")]
    [InlineData("/%2e%2ex", "..x")]
    [InlineData("http://host/bridges/7?x=/..", "bridges|7")]
    [InlineData("HTTPS://host:443/a", "a")]
    public void A_path_is_split_on_raw_slashes_and_decoded_after(string raw, string expected)
    {
        var target = RequestTarget.Read(raw);
        Assert.Equal(TargetFault.None, target.Fault);
        Assert.Equal(expected, Texts(target));
    }

    [Theory]
    [InlineData("/bridges/..", TargetFault.DotSegment)]
    [InlineData("/bridges/.", TargetFault.DotSegment)]
    [InlineData("/./bridges", TargetFault.DotSegment)]
    [InlineData("/bridges/%2e%2e", TargetFault.DotSegment)]
    [InlineData("/bridges/%2E.", TargetFault.DotSegment)]
    [InlineData("/bridges/%2e/7", TargetFault.DotSegment)]
    [InlineData("/a\\b", TargetFault.ForbiddenCharacter)]
    [InlineData("/a b", TargetFault.ForbiddenCharacter)]
    [InlineData("/a\tb", TargetFault.ForbiddenCharacter)]
    [InlineData("/a\u007f", TargetFault.ForbiddenCharacter)]
    [InlineData("/ø", TargetFault.ForbiddenCharacter)]
    [InlineData("/a#b", TargetFault.ForbiddenCharacter)]
    [InlineData("/a?x=\\", TargetFault.ForbiddenCharacter)]
    [InlineData("*", TargetFault.NotAPath)]
    [InlineData("", TargetFault.NotAPath)]
    [InlineData("host:443", TargetFault.NotAPath)]
    [InlineData("bridges/7", TargetFault.NotAPath)]
    [InlineData("http://host?x=/a", TargetFault.NotAPath)]
    [InlineData("ftp://host/a", TargetFault.NotAPath)]
    public void What_is_no_address_is_told_apart_by_why(string raw, TargetFault fault) =>
        Assert.Equal(fault, RequestTarget.Read(raw).Fault);

    [Theory]
    [InlineData("%")]
    [InlineData("%z")]
    [InlineData("%zz")]
    [InlineData("a%4")]
    [InlineData("%00")]
    [InlineData("%ff")]
    [InlineData("%C3")]
    [InlineData("%C0%AF")] // an overlong slash
    [InlineData("%ED%A0%80")] // a surrogate
    [InlineData("%F4%90%80%80")] // beyond Unicode
    [InlineData("%u0041")]
    public void A_segment_that_cannot_be_decoded_is_bad_and_empty(string segment)
    {
        var target = RequestTarget.Read("/bridges/" + segment);
        Assert.Equal(TargetFault.None, target.Fault);
        Assert.True(target.Segments[1].IsBad);
        Assert.Equal("", target.Text(1).ToString());
        Assert.False(target.Segments[0].IsBad);
    }

    [Theory]
    [InlineData("/a?x=1&y=2", "x=1|y=2")]
    [InlineData("/a?x=1+2%2B3", "x=1 2+3")]
    [InlineData("/a?x", "x=")]
    [InlineData("/a?x=", "x=")]
    [InlineData("/a?=1", "=1")]
    [InlineData("/a?&&x=1&", "x=1")]
    [InlineData("/a?x=a=b", "x=a=b")]
    [InlineData("/a?x=a?b/c", "x=a?b/c")]
    [InlineData("/a?x=%zz", "x=(bad)")]
    [InlineData("/a?%zz=1&y=2", "y=2")]
    [InlineData("/a?x=1;y=2", "x=1;y=2")]
    [InlineData("/a?c%C3%B8de=l%C3%B8kke", "cøde=løkke")]
    public void A_query_string_is_read_as_a_form_sends_it(string raw, string expected) =>
        Assert.Equal(
            expected,
            string.Join('|', RequestTarget.Read(raw).Query.Select(pair => $"{pair.Name}={pair.Value ?? "(bad)"}"))
        );

    [Theory]
    [InlineData("/_jexa/style.css", true)]
    [InlineData("/%5fjexa/style.css", true)]
    [InlineData("/_JEXA/style.css", false)]
    [InlineData("/x/_jexa", false)]
    [InlineData("/", false)]
    public void What_is_Jexas_own_is_decided_by_the_same_reading(string raw, bool reserved) =>
        Assert.Equal(reserved, RequestTarget.Read(raw).IsReserved);

    [Fact]
    public void Any_text_at_all_is_read_without_an_exception() =>
        Gen.OneOf(Gen.String, Gen.String[Gen.Char["/%.?&=+#\\aøzZ09\u0301\ud83d\ude00\u0000\u0001 "], 0, 40].Select(s => "/" + s))
            .Sample(raw =>
            {
                var target = RequestTarget.Read(raw);
                if (target.Fault != TargetFault.None)
                    return target.Segments.Length == 0;
                for (var i = 0; i < target.Segments.Length; i++)
                    if (target.Text(i).Contains('\0') || target.Text(i) is "." or "..")
                        return false;
                return target.Segments.Length == 0 || target.Segments.Length == target.Path.Count('/');
            });

    [Fact]
    public void Any_bytes_percent_encoded_decode_to_themselves_or_not_at_all() =>
        Gen
            .Byte.Array[1, 24]
            .Sample(bytes =>
            {
                var raw = "/" + string.Concat(bytes.Select(b => $"%{b:x2}"));
                var target = RequestTarget.Read(raw);
                var valid = System.Text.Unicode.Utf8.IsValid(bytes) && !bytes.Contains((byte)0);
                if (!valid)
                    return target.Segments[0].IsBad;
                var text = Encoding.UTF8.GetString(bytes);
                return text is "." or ".." ? target.Fault == TargetFault.DotSegment : target.Text(0).SequenceEqual(text);
            });

    private static string Texts(RequestTarget target)
    {
        var texts = new List<string>();
        for (var i = 0; i < target.Segments.Length; i++)
            texts.Add(target.Text(i).ToString());
        return string.Join('|', texts);
    }
}
