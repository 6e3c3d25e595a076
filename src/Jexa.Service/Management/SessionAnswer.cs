namespace Jexa.Service.Management;

public sealed record SessionAnswer(string Token);
