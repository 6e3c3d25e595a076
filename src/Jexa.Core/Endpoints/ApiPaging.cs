namespace Jexa.Core.Endpoints;

/// <summary>How the pages of an API's list follow each other.</summary>
public enum ApiPaging
{
    /// <summary>There is one page, or each names the next in a Link header (RFC 8288).</summary>
    Links,

    /// <summary>By a parameter <c>page</c> that counts from 1.</summary>
    Page,

    /// <summary>By a parameter <c>offset</c> that counts rows from 0.</summary>
    Offset,
}
