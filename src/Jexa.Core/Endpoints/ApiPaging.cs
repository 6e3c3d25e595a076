namespace Jexa.Core.Endpoints;

/// <summary>How the pages of a list of an API follow each other.</summary>
public enum ApiPaging
{
    /// <summary>There is one page, or each page names the next one in a Link header (RFC 8288).</summary>
    Links,

    /// <summary>By a parameter <c>page</c>, counted from 1.</summary>
    Page,

    /// <summary>By a parameter <c>offset</c>, counted in rows from 0.</summary>
    Offset,
}
