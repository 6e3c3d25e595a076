namespace Jexa.Service.Hosting;

/// <summary>Why the service could not be started, as a sentence for whoever started it.</summary>
public sealed class StartException(string message, Exception? inner = null) : Exception(message, inner);
