using System.Collections.Concurrent;
using System.Text;
using SQLitePCL;

namespace Jexa.Bench.Direct;

/// <summary>Connections that are kept, each with its statements prepared.</summary>
internal sealed class ReaderPool(string database)
{
    private readonly ConcurrentBag<Reader> _idle = [];

    public Reader Rent() => _idle.TryTake(out var reader) ? reader : new Reader(database);

    public void Return(Reader reader) => _idle.Add(reader);
}

/// <summary>One connection and the three statements of the two pages.</summary>
internal sealed class Reader : IDisposable
{
    private const string Fields = "b.name, b.code, d.slug, d.name, b.kind, b.opened_on, b.length_m";

    private readonly sqlite3 _handle;
    private readonly sqlite3_stmt _detail;
    private readonly sqlite3_stmt _list;
    private readonly sqlite3_stmt _count;
    private readonly sqlite3_stmt _version;
    private long _countedAt = -1;
    private long _counted;

    public Reader(string database)
    {
        raw.SetProvider(new SQLite3Provider_e_sqlite3());
        raw.sqlite3_open_v2(database, out _handle, raw.SQLITE_OPEN_READONLY, null);
        raw.sqlite3_prepare_v2(
            _handle,
            $"SELECT {Fields}, b.status, b.river, b.width_m, b.carries_t, b.lanes, b.toll, b.note FROM "
                + "bridge b LEFT JOIN district d ON d.slug = b.district "
                + "WHERE b.bridge_id = ?1 AND b.status IS NOT 'withdrawn'",
            out _detail
        );
        raw.sqlite3_prepare_v2(
            _handle,
            $"SELECT {Fields}, b.bridge_id FROM bridge b LEFT JOIN district d ON d.slug = b.district WHERE "
                + "b.status IS NOT 'withdrawn' "
                + "ORDER BY b.name, b.opened_on DESC NULLS LAST, b.bridge_id DESC LIMIT 51",
            out _list
        );
        raw.sqlite3_prepare_v2(_handle, "SELECT count(*) FROM bridge WHERE status IS NOT 'withdrawn'", out _count);
        raw.sqlite3_prepare_v2(_handle, "PRAGMA data_version", out _version);
    }

    public void Dispose()
    {
        foreach (var statement in new[] { _detail, _list, _count, _version })
            statement.Dispose();
        _handle.Dispose();
    }

    public bool WriteDetail(PageBuffer page, long id)
    {
        raw.sqlite3_bind_int64(_detail, 1, id);
        var found = raw.sqlite3_step(_detail) == raw.SQLITE_ROW;
        if (found)
        {
            page.Append("<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<title>"u8);
            Text(_detail, 0, page);
            page.Append(Frame);
            page.Append("<p class=\"back\"><a href=\"/bridges\">Bridges</a></p>\n<h1>"u8);
            Text(_detail, 0, page);
            page.Append("</h1>\n<dl class=\"record\">\n<div><dt>Name</dt><dd>"u8);
            Text(_detail, 0, page);
            page.Append("</dd></div>\n<div><dt>Code</dt><dd>"u8);
            Text(_detail, 1, page);
            page.Append("</dd></div>\n<div><dt>District</dt><dd><a href=\"/districts/"u8);
            Slug(_detail, 2, page);
            page.Append("\">"u8);
            Text(_detail, 3, page);
            page.Append("</a></dd></div>\n<div><dt>Status</dt><dd>"u8);
            Text(_detail, 7, page);
            page.Append("</dd></div>\n<div><dt>Kind</dt><dd>"u8);
            Text(_detail, 4, page);
            page.Append("</dd></div>\n<div><dt>River</dt><dd>"u8);
            Text(_detail, 8, page);
            page.Append("</dd></div>\n<div><dt>Opened</dt><dd>"u8);
            Date(_detail, 5, page);
            page.Append("</dd></div>\n<div><dt>Length (m)</dt><dd>"u8);
            Number(_detail, 6, page);
            page.Append("</dd></div>\n<div><dt>Width (m)</dt><dd>"u8);
            Number(_detail, 9, page);
            page.Append("</dd></div>\n<div><dt>Carries (t)</dt><dd>"u8);
            Number(_detail, 10, page);
            page.Append("</dd></div>\n<div><dt>Lanes</dt><dd>"u8);
            Number(_detail, 11, page);
            page.Append("</dd></div>\n<div><dt>Toll bridge</dt><dd>"u8);
            page.Append(raw.sqlite3_column_int64(_detail, 12) == 0 ? "No"u8 : "Yes"u8);
            page.Append("</dd></div>\n<div><dt>Note</dt><dd>"u8);
            Text(_detail, 13, page);
            page.Append("</dd></div>\n</dl>\n</main>\n</body>\n</html>\n"u8);
        }

        raw.sqlite3_reset(_detail);
        return found;
    }

    public bool WriteList(PageBuffer page)
    {
        page.Append("<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<title>Bridges"u8);
        page.Append(Frame);
        page.Append("<div class=\"lead\">\n<h1>Bridges</h1>\n<p class=\"total\">"u8);
        page.Append(Encoding.ASCII.GetBytes(Count().ToString("N0", System.Globalization.CultureInfo.InvariantCulture)));
        page.Append(
            " bridges</p>\n</div>\n<table class=\"list\">\n<thead>\n<tr>\n<th scope=\"col\">Name</th>\n<th "u8
                + "scope=\"col\">Code</th>\n<th scope=\"col\">District</th>\n<th scope=\"col\">Kind</th>\n<th "u8
                + "scope=\"col\">Opened</th>\n<th scope=\"col\" class=\"number\">Length "u8
                + "(m)</th>\n</tr>\n</thead>\n<tbody>\n"u8
        );
        for (var rows = 0; rows < 50 && raw.sqlite3_step(_list) == raw.SQLITE_ROW; rows++)
            WriteRow(page);
        raw.sqlite3_reset(_list);
        page.Append(
            "</tbody>\n</table>\n<nav class=\"turns\" aria-label=\"Parts of the list\">\n<a class=\"next\" "u8
                + "rel=\"next\" href=\"/bridges?after="u8
                + "AQNBc2ggRm9vdGJyaWRnZQNBc2ggRm9vdGJyaWRnZQNBc2ggRm9vdGJyaWRnZQ\">Next</a>\n"u8
                + "</nav>\n</main>\n</body>\n</html>\n"u8
        );
        return true;
    }

    /// <summary>Counts anew only after somebody has committed something.</summary>
    private long Count()
    {
        raw.sqlite3_step(_version);
        var version = raw.sqlite3_column_int64(_version, 0);
        raw.sqlite3_reset(_version);
        if (version == _countedAt)
            return _counted;
        raw.sqlite3_step(_count);
        (_countedAt, _counted) = (version, raw.sqlite3_column_int64(_count, 0));
        raw.sqlite3_reset(_count);
        return _counted;
    }

    private void WriteRow(PageBuffer page)
    {
        page.Append("<tr>\n<td data-label=\"Name\"><a href=\"/bridges/"u8);
        page.Append(raw.sqlite3_column_int64(_list, 7));
        page.Append("\">"u8);
        Text(_list, 0, page);
        page.Append("</a></td>\n<td data-label=\"Code\">"u8);
        Text(_list, 1, page);
        page.Append("</td>\n<td data-label=\"District\"><a href=\"/districts/"u8);
        Slug(_list, 2, page);
        page.Append("\">"u8);
        Text(_list, 3, page);
        page.Append("</a></td>\n<td data-label=\"Kind\">"u8);
        Text(_list, 4, page);
        page.Append("</td>\n<td data-label=\"Opened\">"u8);
        Date(_list, 5, page);
        page.Append("</td>\n<td class=\"number\" data-label=\"Length (m)\">"u8);
        Number(_list, 6, page);
        page.Append("</td>\n</tr>\n"u8);
    }

    private static void Text(sqlite3_stmt statement, int column, PageBuffer page)
    {
        if (raw.sqlite3_column_type(statement, column) == raw.SQLITE_NULL)
            page.Append(Empty);
        else
            page.AppendEncoded(raw.sqlite3_column_blob(statement, column));
    }

    /// <summary>Slugs are escaped as the framework does it.</summary>
    private static void Slug(sqlite3_stmt statement, int column, PageBuffer page)
    {
        var slug = raw.sqlite3_column_blob(statement, column);
        if (slug.IndexOfAnyExceptInRange((byte)'a', (byte)'z') < 0)
            page.Append(slug);
        else
            page.Append(Encoding.ASCII.GetBytes(Uri.EscapeDataString(Encoding.UTF8.GetString(slug))));
    }

    private static void Number(sqlite3_stmt statement, int column, PageBuffer page)
    {
        switch (raw.sqlite3_column_type(statement, column))
        {
            case raw.SQLITE_INTEGER:
                page.Append(raw.sqlite3_column_int64(statement, column));
                break;
            case raw.SQLITE_FLOAT:
                page.Append(raw.sqlite3_column_double(statement, column));
                break;
            default:
                page.Append(Empty);
                break;
        }
    }

    private static void Date(sqlite3_stmt statement, int column, PageBuffer page)
    {
        if (raw.sqlite3_column_type(statement, column) == raw.SQLITE_NULL)
        {
            page.Append(Empty);
            return;
        }

        var text = raw.sqlite3_column_blob(statement, column);
        page.Append("<time datetime=\""u8);
        page.Append(text);
        page.Append("\">"u8);
        page.Append(((text[8] - '0') * 10) + text[9] - '0');
        page.Append(" "u8);
        page.Append(Months[((text[5] - '0') * 10) + text[6] - '0' - 1]);
        page.Append(" "u8);
        page.Append(text[..4]);
        page.Append("</time>"u8);
    }

    internal static ReadOnlySpan<byte> Empty =>
        "<span class=\"none\"><span aria-hidden=\"true\">—</span><span class=\"unseen\">empty</span></span>"u8;

    internal static ReadOnlySpan<byte> Frame =>
        " · Alder Valley bridge register</title>\n<meta name=\"viewport\" content=\"width=device-width, "u8
        + "initial-scale=1\">\n<link rel=\"stylesheet\" href=\"/_jexa/style.css?v=3f9844b4aaa2\">\n<link "u8
        + "rel=\"icon\" type=\"image/svg+xml\" href=\"/_jexa/icon.svg\">\n</head>\n<body>\n<a "u8
        + "class=\"skip\" href=\"#main\">Skip to the content</a>\n<header class=\"top\">\n<a "u8
        + "class=\"app\" href=\"/bridges\">Alder Valley bridge register</a>\n<nav "u8
        + "aria-label=\"Pages\">\n<ul>\n<li><a href=\"/bridges\">Bridges</a></li>\n<li><a "u8
        + "href=\"/districts\">Districts</a></li>\n</ul>\n</nav>\n</header>\n<main id=\"main\">\n"u8;

    private static readonly byte[][] Months =
    [
        .. System.Globalization.CultureInfo.InvariantCulture.DateTimeFormat.MonthNames.Take(12).Select(Encoding.ASCII.GetBytes),
    ];
}
