namespace Jexa.Service.Management;

public sealed record StepTrace(string Step, double Microseconds);
