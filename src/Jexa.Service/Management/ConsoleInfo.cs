namespace Jexa.Service.Management;

/// <param name="Url">Opens the console, signed in. It works once.</param>
public sealed record ConsoleInfo(string Url);
