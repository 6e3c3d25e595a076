namespace Jexa.Service.Hosting;

/// <summary>How log lines are written.</summary>
public enum LogForm
{
    /// <summary>A sentence a line, for people.</summary>
    Text,

    /// <summary>A JSON object a line, its values by name, for programs.</summary>
    Json,
}
