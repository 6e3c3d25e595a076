namespace Jexa.Core.Visits;

/// <summary>Who visits. Everybody is anonymous until there is sign-in.</summary>
public abstract record Principal
{
    private Principal() { }

    public sealed record Anonymous : Principal
    {
        public static Anonymous Value { get; } = new();
    }
}
