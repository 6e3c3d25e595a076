using Jexa.Core.Values;

namespace Jexa.Core.Endpoints;

/// <summary>Where one kind of record is got from an API.</summary>
/// <param name="Name">What the app file calls it.</param>
/// <param name="Item">A URI template (RFC 6570) for one record, its parameters the key's fields; null if records come in lists
/// only.</param>
/// <param name="List">A URI template for the list; null if records come one by one only.</param>
/// <param name="Record">Where the record stands in an item's answer: a JSON Pointer (RFC 6901).</param>
/// <param name="Records">Where the records stand in a list's answer.</param>
/// <param name="Names">The field that takes the members' names where a list is an object of objects; null elsewhere.</param>
/// <param name="Key">The fields that tell records apart.</param>
/// <param name="RefreshSeconds">How long a list that was read is good.</param>
/// <param name="Most">The most records of a list that are read.</param>
/// <param name="Fields">The fields and their types, as far as they are said.</param>
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
