namespace Jexa.Service.Management;

/// <summary>What a source has.</summary>
/// <param name="Connection">The connection as the app file will have it.</param>
/// <param name="Variable">The variable that stands for the password; null if there is none.</param>
/// <param name="SecretsFile">Where its value will be kept.</param>
public sealed record StartInfo(string Connection, string? Variable, string? SecretsFile, IReadOnlyList<StartTableInfo> Tables);
