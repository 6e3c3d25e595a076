namespace Jexa.Service.Traces;

public sealed record StepTrace(string Step, double Microseconds);
