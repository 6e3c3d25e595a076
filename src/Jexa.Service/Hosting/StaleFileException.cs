namespace Jexa.Service.Hosting;

/// <summary>The app file is not the version that a change was made for.</summary>
public sealed class StaleFileException(string message) : Exception(message);
