namespace Jexa.Service.Management;

/// <summary>A source that a first app file is made for.</summary>
/// <param name="Engine"><c>sqlite</c>, <c>postgresql</c>, <c>mariadb</c>, <c>files</c> or <c>http</c>.</param>
/// <param name="Connection">
/// The connection as an app file has it: a file, a folder, a base address, or a connection string without password. Null if
/// <paramref name="Host"/> and <paramref name="Database"/> say it.
/// </param>
/// <param name="Host">The host of a server, with a port if it is not the usual one.</param>
/// <param name="Password">Kept in the state folder; the app file gets the name of a variable.</param>
/// <param name="Lists">For an API without a description: paths that answer with lists of records.</param>
/// <param name="Description">For an API: the file or URL of its OpenAPI description.</param>
/// <param name="Tables">The tables that get pages; all of them if null.</param>
/// <param name="Title">The app's name; made from the connection if null.</param>
public sealed record StartRequest(
    string Engine,
    string? Connection = null,
    string? Host = null,
    string? Database = null,
    string? User = null,
    string? Password = null,
    IReadOnlyList<string>? Lists = null,
    string? Description = null,
    IReadOnlyList<string>? Tables = null,
    string? Title = null
);
