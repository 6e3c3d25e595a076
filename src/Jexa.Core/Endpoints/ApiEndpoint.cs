using Jexa.Core.Values;

namespace Jexa.Core.Endpoints;

/// <summary>How one kind of record is read from an API.</summary>
/// <param name="Name">Its name in the app file.</param>
/// <param name="Item">
/// A URI template (RFC 6570) for one record; its parameters are the key's fields. Null if the API only lists records.
/// </param>
/// <param name="List">A URI template for the list; null if records can only be read one by one.</param>
/// <param name="Record">Where the record is in the answer for one record: a JSON Pointer (RFC 6901).</param>
/// <param name="Records">Where the records are in the answer for a list.</param>
/// <param name="Names">The field that takes the member names if the list is an object of objects; null if it is not.</param>
/// <param name="Key">The fields that identify a record.</param>
/// <param name="RefreshSeconds">For how long a list that was read may be used.</param>
/// <param name="Most">The most records to read from a list.</param>
/// <param name="Fields">The fields and their types, if they are declared.</param>
public sealed record ApiEndpoint(
    string Name,
    string? Item,
    string? List,
    string Record,
    string Records,
    string? Names,
    IReadOnlyList<string> Key,
    ApiPaging Paging,
    int RefreshSeconds,
    int Most,
    IReadOnlyDictionary<string, FieldType> Fields
);
