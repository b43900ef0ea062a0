import { HELLO, scope } from "./scope";
import { serve } from "./replicates-tasks";

serve(scope);
scope.postMessage(HELLO);
