namespace Jexa.Service.State;

/// <summary>The addresses of a running service, for the command line.</summary>
public sealed record ServiceAddress(string PagesUrl, string ConsoleUrl, int ProcessId);
