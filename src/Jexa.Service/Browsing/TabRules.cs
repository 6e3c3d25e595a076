namespace Jexa.Service.Browsing;

/// <summary>What the pages of a tab may ask for.</summary>
/// <param name="Withholds">Whether a request is not sent: its method, its address, and whether it is for a document.</param>
/// <param name="Sent">Is told of each document and each piece of data that is asked for.</param>
/// <param name="Headers">Headers of every request.</param>
/// <param name="Agent">What is added to the browser's own name.</param>
internal sealed record TabRules(
    Func<string, Uri, bool, bool> Withholds,
    Action<Uri> Sent,
    IReadOnlyList<(string Name, string Value)> Headers,
    string Agent
);
