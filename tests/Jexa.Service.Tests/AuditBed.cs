using System.Globalization;
using System.Net;
using System.Text;

namespace Jexa.Service.Tests;

/// <summary>
/// A small application of somebody else: a list of bridges in windows, and a page for each. It is right, but for one fault that
/// it is told to have.
/// </summary>
internal sealed class AuditBed : IDisposable
{
    private const int Size = BedRegister.Window;

    private readonly HttpListener _listener;
    private readonly string _fault;

    public AuditBed(string fault = "")
    {
        _fault = fault;
        (_listener, Url) = LoopbackListener.Start(AnswerAsync);
    }

    public string Url { get; }

    /// <summary>The requests so far: method, target and the cookie.</summary>
    public List<(string Method, string Target, string? Cookie)> Met { get; } = [];

    private Task AnswerAsync(HttpListenerContext context)
    {
        lock (Met)
            Met.Add((context.Request.HttpMethod, context.Request.RawUrl!, context.Request.Headers["Cookie"]));
        Answer(context);
        return Task.CompletedTask;
    }

    private void Answer(HttpListenerContext context)
    {
        var request = context.Request;
        var (status, body, type, location) = request.Url!.AbsolutePath switch
        {
            "/robots.txt" => (
                200,
                "User-agent: *\nDisallow: /secret\n" + (_fault == "robots" ? "Disallow: /bridge?\n" : ""),
                "text/plain",
                null
            ),
            "/bridges" when _fault == "sign-in" && request.Headers["Cookie"] != "session=7" => (
                200,
                "<form><input type=password></form>",
                "text/html",
                null
            ),
            "/bridges" => (
                200,
                List(int.Parse(request.QueryString["page"] ?? "1", CultureInfo.InvariantCulture)),
                "text/html",
                null
            ),
            "/bridge" or "/bridge/" => Record(request),
            "/bridge/edit" => Form(request),
            "/photo" when _fault == "the picture is missing" => (404, "", "text/plain", null),
            "/photo" when _fault == "the picture is a page" => (200, "<p>Sign in", "text/html", null),
            "/photo" when _fault == "the picture is empty" => (200, "", "image/png", null),
            "/photo" => (200, "picture", "image/png", null),
            _ => (404, "<title>Nothing</title><p>There is no such page.", "text/html", (string?)null),
        };
        context.Response.StatusCode = status;
        var opened = _fault == "the first record stays" ? request.QueryString["id"] : null;
        context.Response.Headers.Add("Set-Cookie", $"seen={opened ?? "list"}; Path=/");
        context.Response.ContentType = type + "; charset=utf-8";
        if (location is not null)
            context.Response.RedirectLocation = location;
        try
        {
            context.Response.OutputStream.Write(Encoding.UTF8.GetBytes(body));
            context.Response.Close();
        }
        catch (HttpListenerException)
        {
            // Whoever asked has left.
        }
    }

    private string List(int window)
    {
        if (_fault == "the next page is the same")
            window = 1;
        var rows = new StringBuilder();
        for (var i = 1; i <= Size; i++)
        {
            var id = ((window - 1) * Size) + i;
            var linked = _fault == "a position as the ID" ? i : id;
            var href = _fault switch
            {
                "an ID that was never filled in" when i == 4 => "bridge?id=undefined",
                "a template that was never filled in" when i == 4 => "bridge?id={{id}}",
                "the link of one row leads to its neighbour" when i == 7 => $"bridge?id={id + 1}",
                "every link leads to the neighbour" => $"bridge?id={id + 1}",
                _ => $"bridge?id={linked}",
            };
            if (_fault == "a link to a file" && i == 2)
                rows.Append("<tr><td><a href='file:///home/me/draft.html'>Draft</a></tr>");
            rows.Append(
                CultureInfo.InvariantCulture,
                $"<tr class='{(i % 2 == 0 ? "even" : "odd")}'><td><a href='{href}'>{BedRegister.NameOf(id)}</a>"
            );
            rows.Append(
                CultureInfo.InvariantCulture,
                $"<td>{BedRegister.CodeOf(id)}<td>{BedRegister.OpenedOn(id)}<td>{BedRegister.LengthOf(id)}</tr>"
            );
            if (_fault == "a row stands twice" && i == 4)
                rows.Append(Again(href, id));
        }

        var next = _fault == "the next page is dead" ? "/bridges/none" : $"/bridges?page={window + 1}";
        return "<!DOCTYPE html><title>Bridges</title><nav><a href='/'>Home</a> <a href='/about'>About</a></nav><h1>Bridges</h1>"
            + "<table><tr><th><a href='/bridges?sort=name'>Name</a><th>Code<th>Opened<th>Length</tr>"
            + $"{rows}</table><p><a href='{next}'>Next</a> <a href='/bridge/delete?id=1'>Delete</a>";
    }

    private static string Again(string href, int id) =>
        $"<tr class='odd'><td><a href='{href}'>{BedRegister.NameOf(id)}</a><td>{BedRegister.CodeOf(id)}"
        + $"<td>{BedRegister.OpenedOn(id)}<td>{BedRegister.LengthOf(id)}</tr>";

    private (int Status, string Body, string Type, string? Location) Form(HttpListenerRequest request)
    {
        if (!int.TryParse(request.QueryString["id"], out var id) || _fault == "the edit page fails")
            return (404, "<p>Not found", "text/html", null);
        if (_fault == "the edit form is another's")
            id++;
        string[] values =
            _fault == "the edit form is empty"
                ? ["", "", ""]
                : [BedRegister.NameOf(id), BedRegister.CodeOf(id), BedRegister.LengthOf(id)];
        var fields = string.Concat(values.Select(value => $"<label>Field <input name=f value='{value}'></label>"));
        return (200, $"<title>Edit</title><form method=post>{fields}<textarea name=note></textarea></form>", "text/html", null);
    }

    private (int Status, string Body, string Type, string? Location) Record(HttpListenerRequest request)
    {
        if (_fault == "needs the list first" && request.Headers["Cookie"]?.Contains("seen=list") != true)
            return (302, "", "text/html", "/bridges");
        if (_fault == "answers once" && request.QueryString["id"] == "1" && Met.Count(met => met.Target == request.RawUrl) > 1)
            return (410, "<p>Gone", "text/html", null);
        var raw = request.QueryString[_fault == "another parameter is read" ? "bridge" : "id"];
        if (_fault == "a missing ID shows the first" && string.IsNullOrEmpty(raw))
            raw = "1";
        if (_fault == "another parameter is read")
            raw ??= "1";
        if (string.IsNullOrEmpty(raw))
            return _fault == "a missing ID is a fault"
                ? (500, "<p>Something went wrong", "text/html", null)
                : (302, "", "text/html", "/bridges");
        var text = _fault switch
        {
            "a prefix is enough" => string.Concat(raw.TakeWhile(char.IsAsciiDigit)),
            "zeros and blanks are taken" => raw.Trim().TrimStart('0'),
            _ => raw,
        };
        if (
            !int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var id)
            || text != id.ToString(CultureInfo.InvariantCulture)
        )
            return Refused(raw);
        if (id is < 1 or > 200)
            return Unknown(raw);
        if (_fault == "one record fails" && id == 3)
            return (500, "<p>Something went wrong", "text/html", null);
        if (_fault == "one page is missing" && id == 3)
            return (404, "<p>Not found", "text/html", null);
        if (_fault == "redirects in a circle" && id == 3)
            return (302, "", "text/html", "/bridge?id=3");
        if (_fault == "always the first record")
            id = 1;
        if (
            _fault == "the first record stays"
            && int.TryParse(request.Headers["Cookie"]?.Replace("seen=", ""), CultureInfo.InvariantCulture, out var before)
        )
            id = before;
        if (_fault == "one page shows another" && id == 7)
            id = 12;
        return (200, Page(id, _fault == "an empty frame"), "text/html", null);
    }

    private (int, string, string, string?) Refused(string raw) =>
        _fault switch
        {
            "a wrong ID is a fault of the server" => (500, "<p>Something went wrong", "text/html", null),
            "a large ID is a fault" when raw.Length > 12 => (500, "<p>Something went wrong", "text/html", null),
            "a stack trace" => (400, "<pre>Traceback (most recent call last):\n  File \"app.py\", line 12", "text/html", null),
            "SQL is shown" => (
                400,
                "<p>near \"no\": syntax error in SELECT name FROM bridge WHERE id = " + WebUtility.HtmlEncode(raw),
                "text/html",
                null
            ),
            "the ID comes back as it is" => (400, $"<p>There is no bridge {raw}.", "text/html", null),
            "a wrong ID is 200" => (
                200,
                "<title>Bridge</title><p>Sorry, this bridge was not found in our register.",
                "text/html",
                null
            ),
            "a wrong ID is blank" => (200, "", "text/html", null),
            "a wrong ID shows the first" => (200, Page(1, false), "text/html", null),
            "a wrong ID is an empty record" => (200, Page(0, true), "text/html", null),
            _ => (400, $"<title>Not an ID</title><p>“{WebUtility.HtmlEncode(raw)}” is no ID.", "text/html", null),
        };

    private (int, string, string, string?) Unknown(string raw)
    {
        if (_fault == "an unknown ID takes long")
            Thread.Sleep(3200);
        return _fault switch
        {
            "an unknown ID is 200" => (
                200,
                "<title>Bridge</title><p>Sorry, this bridge does not exist in our register.",
                "text/html",
                null
            ),
            "an unknown ID shows the last" => (200, Page(200, false), "text/html", null),
            "an unknown ID is an empty record" => (200, Page(0, true), "text/html", null),
            _ => (404, "<title>Not found</title><p>There is no such bridge.", "text/html", null),
        };
    }

    private string Page(int id, bool isEmpty)
    {
        var title = isEmpty || _fault == "titles are alike" ? "Bridge" : BedRegister.NameOf(id);
        var opened = BedRegister.OpenedOn(_fault == "one field is another record's" ? (id % Size) + 1 : id);
        var facts = isEmpty
            ? "<dt>Code<dd><dt>Opened<dd><dt>Length<dd>"
            : $"<dt>Code<dd>{BedRegister.CodeOf(id)}<dt>Opened<dd>{opened}<dt>Length<dd>{BedRegister.LengthOf(id)} m";
        var name = isEmpty ? "" : BedRegister.NameOf(id) + Spoilt();
        var window = BedRegister.WindowOf(Math.Max(1, id));
        var back = window == 1 || _fault == "the way back is to the first page" ? "/bridges" : $"/bridges?page={window}";
        return $"<!DOCTYPE html><title>{title}</title><nav><a href='/bridges'>Bridges</a></nav><h1>{name}</h1>"
            + (isEmpty ? "" : $"<img src='/photo?of={id}' alt=''>")
            + $"<dl>{facts}</dl>"
            + (isEmpty ? "" : $"<p><a href='/bridge/edit?id={id}'>Edit</a> <a href='{back}'>Back to the list</a>");
    }

    private string Spoilt() =>
        _fault switch
        {
            "escaped twice" => " &amp;amp; sons",
            "a hole in the page" => " {{nickname}}",
            "a value that was none" => " undefined",
            "read in another encoding" => " BrÃ¼cke",
            _ => "",
        };

    public void Dispose() => _listener.Close();
}
