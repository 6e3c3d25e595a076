using Valley;

// A program over the register's pages, by the file that "jexa client csharp" has written. Usage:
//   register-reader URL list [WORD]     register-reader URL show ADDRESS     register-reader URL rename ID NAME
if (args.Length < 2 || !Uri.TryCreate(args[0], UriKind.Absolute, out var url))
{
    Console.Error.WriteLine(
        "Usage: register-reader URL list [WORD], register-reader URL show ADDRESS, or register-reader URL rename ID NAME"
    );
    return 2;
}

using var http = new HttpClient();
var service = new Service(http, url);
return args[1..] switch
{
    ["list", ..] => Tell(
        await BridgesPage.LoadAsync(service, wanted: new Wanted(Find: args.ElementAtOrDefault(2), Size: 20)),
        list =>
            string.Join(
                '\n',
                list.Records.Select(bridge =>
                        $"{bridge.Id, 6}  {bridge.Fields.Name}, {bridge.Fields.Kind}, {bridge.Fields.LengthM} m"
                    )
                    .Append($"{list.Total.Count} in all")
            )
    ),
    ["show", var address] => Addresses.Read(address) switch
    {
        BridgePage.At(var id) => Tell(await BridgePage.LoadAsync(service, id), bridge =>
            $"{bridge.Fields.Name} ({bridge.Fields.Code}), {bridge.Fields.District?.Label}, opened "
            + $"{bridge.Fields.OpenedOn?.ToString("yyyy-MM-dd") ?? "nobody knows when"}"
        ),
        DistrictPage.At(var slug) => Tell(await DistrictPage.LoadAsync(service, slug), district => district.Fields.Name),
        Reading.Missing missing => Say($"The address lacks {missing.Parameter}.", 1),
        Reading.Malformed malformed => Say($"No address: {malformed.Parameter ?? "it cannot be read"}.", 1),
        _ => Say("This program shows bridges and districts.", 1),
    },
    ["rename", var text, var name] when long.TryParse(text, out var id) => await RenameAsync(id, name),
    _ => Say("Say list, show or rename.", 2),
};

async Task<int> RenameAsync(long id, string name)
{
    if (await BridgeEditPage.LoadAsync(service, id) is not Loaded<Held<BridgeEditPage.Fields>>.Found { Version: { } version })
        return Say($"There is no bridge {id} that could be changed.", 1);
    var saved = await BridgeEditPage.SaveAsync(service, id, new BridgeEditPage.Changes { Name = name }, version);
    return saved.Match(
        done => Say($"It is called {done.Value.Fields.Name} now.", 0),
        invalid => Say(string.Join('\n', invalid.Faults.Select(fault => $"{fault.Field}: {fault.Detail}")), 1),
        conflict => Say("Somebody else changed it meanwhile.", 1),
        refused => Say(refused.Detail, 1),
        failure => Say(failure.Detail, 1)
    );
}

static int Tell<T>(Loaded<T> loaded, Func<T, string> shown) =>
    loaded.Match(
        found => Say(shown(found.Value), 0),
        missing => Say(missing.Detail, 1),
        malformed => Say(malformed.Detail, 1),
        unknown => Say(unknown.Detail, 1),
        gone => Say(gone.Detail, 1),
        unavailable => Say($"{unavailable.Detail} Try again in {unavailable.After.TotalSeconds:0} s.", 3),
        offline => Say(offline.Detail, 3),
        otherwise => Say(otherwise.Detail, 3)
    );

static int Say(string text, int exitCode)
{
    (exitCode == 0 ? Console.Out : Console.Error).WriteLine(text);
    return exitCode;
}
