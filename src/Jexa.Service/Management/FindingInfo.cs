namespace Jexa.Service.Management;

/// <param name="Page">The page whose part of the file it is in; null for none.</param>
public sealed record FindingInfo(
    string Code,
    string Severity,
    string Title,
    string File,
    int Line,
    int Column,
    string? Page,
    string Message,
    string? Found,
    string? Expected,
    string? Nearest,
    string Remedy
);
