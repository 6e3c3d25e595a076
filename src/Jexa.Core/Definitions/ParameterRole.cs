namespace Jexa.Core.Definitions;

/// <summary>What the parameters of a page's path and query string are for.</summary>
public enum ParameterRole
{
    /// <summary>They find the one record that the page is about.</summary>
    Id,

    /// <summary>They filter the records of a list.</summary>
    Filters,

    /// <summary>They fill fields of a new record.</summary>
    FirstValues,

    /// <summary>They fill holes of a text.</summary>
    Holes,
}
