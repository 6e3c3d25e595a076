namespace Jexa.Tests;

/// <summary>Finds files of the repository that the tests were built in.</summary>
public static class Repository
{
    public static string Root { get; } = Find();

    public static string File(string path) => Path.Combine(Root, path);

    private static string Find()
    {
        for (var at = new DirectoryInfo(AppContext.BaseDirectory); at is not null; at = at.Parent)
            if (System.IO.File.Exists(Path.Combine(at.FullName, "Jexa.slnx")))
                return at.FullName;
        throw new DirectoryNotFoundException("The tests do not run inside the repository.");
    }
}
