using System.Globalization;
using System.Text;

namespace Jexa.Service.Tests;

/// <summary>Writes the pages of an application that is files only: right, but for one fault.</summary>
internal static class FileBed
{
    private const int Windows = 3;

    public static void Write(string folder, string fault)
    {
        for (var window = 1; window <= Windows; window++)
            File.WriteAllText(Path.Combine(folder, NameOf(window)), List(window, fault));
        Directory.CreateDirectory(Path.Combine(folder, "pictures"));
        Directory.CreateDirectory(Path.Combine(folder, "edit"));
        for (var id = 1; id <= Windows * BedRegister.Window; id++)
        {
            if (!(fault == "one page is missing" && id == 7))
                File.WriteAllText(Path.Combine(folder, FileOf(id)), Page(id, fault));
            File.WriteAllBytes(
                Path.Combine(folder, $"pictures/{id}.png"),
                fault == "the picture is empty" ? [] : BedRegister.Picture
            );
            if (fault != "the edit page fails")
                File.WriteAllText(Path.Combine(folder, $"edit/{id}.html"), Form(id, fault));
        }
    }

    private static string NameOf(int window) => window == 1 ? "index.html" : $"page-{window}.html";

    private static string FileOf(int id) => $"bridge-{id}.html";

    private static string List(int window, string fault)
    {
        var shown = fault == "the next page is the same" ? 1 : window;
        var rows = new StringBuilder();
        for (var place = 1; place <= BedRegister.Window; place++)
        {
            var id = ((shown - 1) * BedRegister.Window) + place;
            var to = fault switch
            {
                "the link of one row leads to its neighbour" when place == 7 => FileOf(id + 1),
                "every link leads to the neighbour" => FileOf((id % (Windows * BedRegister.Window)) + 1),
                "a position as the ID" => FileOf(place),
                "an ID that was never filled in" when place == 4 => "bridge-.html",
                "a template that was never filled in" when place == 4 => "bridge-{{id}}.html",
                "an undefined ID" when place == 4 => "undefined",
                "a link without its folder" when place == 4 => "bridges/" + FileOf(id),
                _ => FileOf(id),
            };
            var row =
                $"<li class=bridge><a href='{to}'>{BedRegister.NameOf(id)}</a> <span>{BedRegister.CodeOf(id)}</span> "
                + $"<time>{BedRegister.OpenedOn(id)}</time> <span>{BedRegister.LengthOf(id)}</span></li>";
            rows.Append(row);
            if (fault == "a row stands twice" && place == 4)
                rows.Append(row);
        }

        var next = fault == "the next page is dead" ? "page-99.html" : NameOf(Math.Min(window + 1, Windows));
        var draft = fault == "a link to a file" ? "<p><a href='file:///home/me/draft.html'>Draft</a>" : "";
        return $"<!DOCTYPE html><html lang=en><title>Bridges</title><nav><a href='about.html'>About</a></nav><h1>Bridges</h1>"
            + $"<ul>{rows}</ul>{draft}{(fault == "the list is spoilt" ? "<p>Total: NaN" : "")}<p><a href='{next}'>next page</a>";
    }

    private static string Page(int id, string fault)
    {
        if (fault == "an empty file" && id == 7)
            return "";
        if (fault == "always the first record")
            id = 1;
        if (fault == "one page shows another" && id == 7)
            id = 12;
        var opened = BedRegister.OpenedOn(fault == "one field is another record's" ? (id % BedRegister.Window) + 1 : id);
        var length =
            fault == "another field is another record's"
                ? BedRegister.LengthOf((id % BedRegister.Window) + 1)
                : BedRegister.LengthOf(id);
        var name =
            BedRegister.NameOf(id)
            + fault switch
            {
                "escaped twice" => " &amp;lt;new&amp;gt;",
                "a hole in the page" => " ${bridge.nickname}",
                "a value that was none" => " [object Object]",
                "read in another encoding" => " Bridge â€œone",
                _ => "",
            };
        var facts =
            fault == "an empty frame"
                ? "<dt>Code<dd><dt>Opened<dd><dt>Length<dd><dt>Kept by<dd>"
                : $"<dt>Code<dd>{BedRegister.CodeOf(id)}<dt>Opened<dd>{opened}<dt>Length<dd>{length} m<dt>Kept by<dd>"
                    + BedRegister.KeeperOf(id);
        var head = fault == "an empty frame" ? "" : name;
        var window = BedRegister.WindowOf(id);
        var back = fault == "the way back is to the first page" ? "index.html" : NameOf(window);
        var picture = fault switch
        {
            "the picture is missing" => "pictures/none.png",
            "the picture is a page" => "index.html",
            _ => $"pictures/{id}.png",
        };
        var refresh = fault == "a trace was left" ? "<!-- Traceback (most recent call last): -->" : "";
        return $"<!DOCTYPE html><html lang=en><title>{(fault == "titles are alike" ? "Bridge" : BedRegister.NameOf(id))}</title>"
            + $"<nav><a href='about.html'>About</a></nav><h1>{head}</h1><img src='{picture}' alt=''><dl>{facts}</dl>{refresh}"
            + $"<p><a href='edit/{id}.html'>Edit</a> <a href='{back}'>Back to the list</a>";
    }

    private static string Form(int id, string fault)
    {
        if (fault == "the edit form is another's")
            id++;
        var values =
            fault == "the edit form is empty"
                ? ["", "", ""]
                : new[] { BedRegister.NameOf(id), BedRegister.CodeOf(id), BedRegister.LengthOf(id) };
        return "<!DOCTYPE html><html lang=en><title>Edit</title><form>"
            + string.Concat(
                values.Select((value, i) => string.Create(CultureInfo.InvariantCulture, $"<input name=f{i} value='{value}'>"))
            )
            + "</form>";
    }
}
