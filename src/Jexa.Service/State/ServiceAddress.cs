namespace Jexa.Service.State;

/// <summary>Where a running service can be reached, as the command line reads it.</summary>
public sealed record ServiceAddress(string PagesUrl, string ConsoleUrl, int ProcessId);
