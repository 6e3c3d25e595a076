namespace Jexa.Core.Visits;

/// <summary>Who visits. Everybody is anonymous until there is sign-in.</summary>
public abstract record Principal
{
    private Principal() { }

    /// <summary>A visitor of whom nothing is known.</summary>
    public sealed record Anonymous : Principal
    {
        /// <summary>The only instance.</summary>
        public static Anonymous Value { get; } = new();
    }
}
