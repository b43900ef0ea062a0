import { HELLO, scope } from "./scope";
import { serve } from "./engine-tasks";

serve(scope);
scope.postMessage(HELLO);
