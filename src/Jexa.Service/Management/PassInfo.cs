namespace Jexa.Service.Management;

public sealed record PassInfo(string Parameter, string Field);
