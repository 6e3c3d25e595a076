namespace Jexa.Sources.Files;

/// <summary>One row of a file.</summary>
/// <param name="Place">Its place, for people: a line, or the number of an item.</param>
/// <param name="Values">Its values as text, in the order of the columns; null for none.</param>
internal readonly record struct FileRow(string Place, string?[] Values);
