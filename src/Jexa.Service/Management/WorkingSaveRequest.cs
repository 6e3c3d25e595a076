namespace Jexa.Service.Management;

/// <param name="Version">The version of the working copy that its author has seen.</param>
public sealed record WorkingSaveRequest(string Version);
