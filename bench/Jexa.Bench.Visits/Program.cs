using Jexa.Bench.Visits;

// Usage: visits stages APP_FILE LIST_ADDRESS DETAIL_ADDRESS
//        visits scale
//        visits walks
//        visits saves
//        visits files
//        visits clients
//        visits servers ROUNDS SECONDS (after ./jexa demo has made the register)
switch (args)
{
    case ["stages", var file, var list, var detail]:
        await Stages.RunAsync(file, list, detail);
        return 0;
    case ["scale"]:
        await Scale.RunAsync();
        return 0;
    case ["walks"]:
        await Walks.RunAsync();
        return 0;
    case ["saves"]:
        await Saves.RunAsync();
        return 0;
    case ["clients"]:
        await Clients.RunAsync();
        return 0;
    case ["files"]:
        await Files.RunAsync();
        return 0;
    case ["servers", var rounds, var seconds]:
        await Servers.RunAsync(int.Parse(rounds), int.Parse(seconds));
        return 0;
    default:
        Console.Error.WriteLine("Usage: visits stages APP_FILE LIST_ADDRESS DETAIL_ADDRESS, visits scale, visits walks, visits saves, visits files, visits clients, or visits servers ROUNDS SECONDS");
        return 2;
}
