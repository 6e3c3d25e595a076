using Jexa.Bench.Visits;

// Usage: visits stages APP_FILE LIST_ADDRESS DETAIL_ADDRESS
//        visits scale
//        visits walks
//        visits saves
//        visits bodies DEMO_FOLDER (after ./jexa demo has made the register)
//        visits files
//        visits proofs (what check and sweep take; PostgreSQL and MariaDB must be installed)
//        visits clients
//        visits details ROUNDS SECONDS (after ./jexa demo has made the register)
//        visits servers
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
    case ["bodies", var demo]:
        await Bodies.RunAsync(demo);
        return 0;
    case ["files"]:
        await Files.RunAsync();
        return 0;
    case ["proofs"]:
        await Proofs.RunAsync();
        return 0;
    case ["details", var rounds, var seconds, .. var engines]:
        await Servers.CompareDetailsAsync(
            int.Parse(rounds),
            int.Parse(seconds),
            engines.Length == 0 ? ["sqlite", "postgresql", "mariadb"] : engines
        );
        return 0;
    case ["servers"]:
        await Servers.RunAsync();
        return 0;
    default:
        Console.Error.WriteLine(
            "Usage: visits stages APP_FILE LIST_ADDRESS DETAIL_ADDRESS, visits scale, visits walks, visits "
                + "saves, visits bodies DEMO_FOLDER, visits files, visits proofs, visits clients, visits details ROUNDS SECONDS "
                + "[ENGINE…], or visits servers"
        );
        return 2;
}
